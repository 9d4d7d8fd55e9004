// SPDX-License-Identifier: GPL-3.0-or-later
#include "base/error.h"

#include <algorithm>

namespace askcount {

namespace {

/// Words of more letters than anybody wants to read lose their middle.
std::string readable(const std::string& text) {
  constexpr size_t kLongest = 300, kHead = 120, kTail = 60;
  std::string out;
  for (size_t from = 0; from < text.size();) {
    const size_t end = std::min(text.find_first_of(" \n", from), text.size());
    if (end - from <= kLongest) {
      out.append(text, from, end - from);
    } else {
      // Not in the middle of a letter of several bytes.
      const auto inside = [&](size_t at) { return (static_cast<unsigned char>(text[at]) & 0xC0) == 0x80; };
      size_t head = from + kHead, tail = end - kTail;
      while (head > from && inside(head)) --head;
      while (tail < end && inside(tail)) ++tail;
      out += text.substr(from, head - from) + "…" + text.substr(tail, end - tail);
    }
    if (end < text.size()) out += text[end];
    from = end + 1;
  }
  return out;
}

}  // namespace

Error::Error(Kind kind, const std::string& what, const std::string& remedy)
    : std::runtime_error(readable(remedy.empty() ? what : what + " " + remedy)), kind_(kind) {}

Error::Error(Kind kind, const Called& called, const std::string& rest, const std::string& remedy)
    : Error(kind, called.words + " " + rest, remedy) {
  about_ = called.about;
  rest_ = readable(remedy.empty() ? rest : rest + " " + remedy);
}

Error bad_input(const std::string& what, const std::string& remedy) {
  return {Error::Kind::BadInput, what, remedy};
}
Error bad_value(const Called& called, const std::string& rest, const std::string& remedy) {
  return {Error::Kind::BadInput, called, rest, remedy};
}
Error failed(const std::string& what, const std::string& remedy) {
  return {Error::Kind::Failed, what, remedy};
}
Error cancelled(const std::string& what) {
  return {Error::Kind::Cancelled, what};
}

}  // namespace askcount
