"""What makes a finish miss what it aims at, and which change of a hand would bring it nearer."""
