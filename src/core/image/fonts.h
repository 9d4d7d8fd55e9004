// SPDX-License-Identifier: GPL-3.0-or-later
// The fonts that ship with the product.
#pragma once

namespace askcount::image {

/// Makes the fonts that ship known to this process, once. Safe from several threads. Throws Failed where they
/// cannot be used.
void know_fonts();

}  // namespace askcount::image
