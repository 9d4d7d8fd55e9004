// SPDX-License-Identifier: GPL-3.0-or-later
// Loops over pixels that are built for newer processors too, where the compiler can, and chosen at start.
#pragma once

#if defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__) && !defined(ASKCOUNT_SANITIZED)
#define ASKCOUNT_CLONES __attribute__((target_clones("arch=x86-64-v3", "default")))
#else
#define ASKCOUNT_CLONES
#endif
