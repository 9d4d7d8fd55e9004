// SPDX-License-Identifier: GPL-3.0-or-later
// What every program of ours sets up first.
#pragma once

#include <string>

namespace askcount {

/// Has every buffer of a mebibyte or more go back to the system the moment it is let go of. Without it glibc
/// raises the size from which it does so with each large buffer freed, and a picture's memory then stays held
/// between pictures (a sixth of a render's peak). Called once, first thing in main(); nothing where the C
/// library has no such setting.
void give_back_large_buffers();

/// Writing beyond a size limit, or to a pipe that nobody reads, fails with an error instead of ending the
/// program, so that nothing half-written is left. Called once, first thing in main().
void fail_writes_instead_of_dying();

/// Both.
void prepare_process();

/// From now on SIGINT, SIGTERM and SIGHUP (unless it is ignored, as under nohup) do nothing but put their
/// number, one byte, into a pipe. Returns the end to read from; the same every time; -1 where there can be
/// none.
int signal_wire();

/// The calling thread, and those it begins from now on, give way to all others (niceness 10): for work beside
/// a window that a person uses meanwhile.
void stand_back();

/// Writes to standard error, whatever becomes of it: nobody need read it.
void complain(const std::string& text);

}  // namespace askcount
