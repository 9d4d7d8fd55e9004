// How the programs keep memory.
#pragma once

namespace askcount {

/// Has every buffer of a mebibyte or more go back to the system the moment it is let go of. Without it glibc
/// raises the size from which it does so with each large buffer freed, and a picture's memory then stays held
/// between pictures (a sixth of a render's peak). Called once, first thing in main(); nothing where the C
/// library has no such setting.
void give_back_large_buffers();

}  // namespace askcount
