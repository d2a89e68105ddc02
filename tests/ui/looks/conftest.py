"""What every walk over the looks of the window goes through."""

import pytest
from fuzzing.fields import sheets
from tests.ui.looks.cut import settled

from lean_sepia.ui.kit.sheet import Sheet


@pytest.fixture
def each_sheet(window, workspace, qtbot):
    """Every sheet and dialog as it lies open, one after the other."""

    def opened():
        workspace.open_room("plan")
        for sheet in sheets(workspace.session):
            if isinstance(sheet, Sheet):
                workspace.sheets.show(sheet)
            else:
                qtbot.addWidget(sheet)
                sheet.show()
            settled()
            yield sheet
            if not isinstance(sheet, Sheet):
                sheet.close()

    return opened
