// SPDX-License-Identifier: GPL-3.0-or-later
// Programs with Qt's loop, told to end.
#pragma once

class QCoreApplication;

namespace askcount::link {

/// From now on SIGINT, SIGTERM and SIGHUP end the application's loop, so that main() returns and everything
/// is put away as it should be. Call it once.
void end_when_told(QCoreApplication& app);

}  // namespace askcount::link
