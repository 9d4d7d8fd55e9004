// SPDX-License-Identifier: GPL-3.0-or-later
// Ctrl+C and being told to end: long work stops cleanly.
#pragma once

#include <stop_token>

namespace askcount::cli {

/// From now on SIGINT, SIGTERM and SIGHUP (unless it is ignored, as under nohup) ask stop_token() to stop;
/// one that comes more than a second later ends the program at once. Call it once, for work that watches the
/// token.
void listen_for_stop();
/// Asked to stop once a signal came; never before listen_for_stop().
std::stop_token stop_token();
/// The signal that came; 0 where none has.
int stop_signal();

}  // namespace askcount::cli
