#include "base/memory.h"

#include <cstdlib>  // says whether it is glibc

#ifdef __GLIBC__
#include <malloc.h>
#endif

namespace askcount {

void give_back_large_buffers() {
#ifdef __GLIBC__
  mallopt(M_MMAP_THRESHOLD, 1 << 20);
#endif
}

}  // namespace askcount
