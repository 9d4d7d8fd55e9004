#include "base/process.h"

#include <csignal>
#include <cstdio>
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

void fail_writes_instead_of_dying() {
  std::signal(SIGXFSZ, SIG_IGN);
  std::signal(SIGPIPE, SIG_IGN);
}

void complain(const std::string& text) {
  std::fputs(text.c_str(), stderr);
  std::fflush(stderr);
}

void prepare_process() {
  give_back_large_buffers();
  fail_writes_instead_of_dying();
}

}  // namespace askcount
