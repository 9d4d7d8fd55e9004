#include "advice/gather_advice.h"

#include <fmt/format.h>

#include "base/units.h"

namespace askcount::advice {

Findings gather_advice(const take::Take& take, const gather::Gathered& gathered) {
  Findings list = gather::judge(gathered);
  if (!take.solution().complete()) return list;
  const auto found = static_cast<long long>(gathered.frames->size()), planned = take.sums().frames;
  if (found != planned)
    list.push_back({"not_as_planned",
                    Severity::Warning,
                    "Not as many as planned",
                    fmt::format("Planned {}, found {}.", counted(planned, "frame"), format_count(found)),
                    "",
                    {}});
  else
    list.push_back({"as_planned", Severity::Ok, "As planned", "Every frame of the plan is here.", "", {}});
  return list;
}

}  // namespace askcount::advice
