#include "advice/gather_advice.h"

#include <fmt/format.h>

#include <cmath>

#include "base/units.h"
#include "plan/budgets.h"

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

std::string plan_differs_words(const plan::Sums& sums, const gather::Gathered& gathered) {
  constexpr double kSame = 0.02;
  const auto frames = static_cast<double>(gathered.frames->size()),
             planned = static_cast<double>(plan::shots_of(sums));
  const bool count = std::abs(frames - planned) > kSame * planned + static_cast<double>(sums.extra_shots);
  const bool interval =
      gathered.interval_s && std::abs(*gathered.interval_s - sums.interval_s) > kSame * sums.interval_s;
  if (!count && !interval) return {};
  const std::string every = interval ? " every " + format_length(*gathered.interval_s, 1) : "";
  return fmt::format("shot {}{}, the plan now has {}{}", counted(static_cast<long long>(frames), "frame"),
                     every, format_count(plan::shots_of(sums)),
                     interval ? " every " + format_length(sums.interval_s, 1) : "");
}

}  // namespace askcount::advice
