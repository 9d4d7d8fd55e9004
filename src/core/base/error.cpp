#include "base/error.h"

namespace askcount {

Error::Error(Kind kind, const std::string& what, const std::string& remedy)
    : std::runtime_error(remedy.empty() ? what : what + " " + remedy), kind_(kind) {}

Error bad_input(const std::string& what, const std::string& remedy) {
  return {Error::Kind::BadInput, what, remedy};
}
Error failed(const std::string& what, const std::string& remedy) {
  return {Error::Kind::Failed, what, remedy};
}
Error cancelled(const std::string& what) {
  return {Error::Kind::Cancelled, what};
}

}  // namespace askcount
