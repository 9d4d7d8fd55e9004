#include "app/shell/shoot_run.h"

#include "base/error.h"

namespace askcount::app {
namespace {

Instant now() {
  return std::chrono::floor<std::chrono::milliseconds>(std::chrono::system_clock::now());
}

}  // namespace

ShootRun::ShootRun(QObject* parent) : QObject(parent) {
  connect(&link_, &link::StandinLink::event, this, &ShootRun::heard);
  connect(&link_, &link::StandinLink::connected, this, [this] {
    if (!taking_up_) return send_rig();
    // Back again: what was missed meanwhile is asked for.
    link_.ask({{"cmd", "events"}, {"since", state_.last_event}}, [this](const Json& reply) {
      for (const Json& e : reply.value("events", Json::array())) heard(e);
      emit changed();
    });
  });
  connect(&link_, &link::StandinLink::lost, this, [this](const QString& why) {
    if (!state_.active || !state_.standin) return;
    emit trouble(why + " What was shot is on the card, and the journal is whole.");
    end(true);
  });
}

void ShootRun::write(Json entry) {
  try {
    journal_.append(entry);
  } catch (const Error& e) {
    emit trouble(QString::fromUtf8(e.what()));
  }
  entry["at"] = now().time_since_epoch().count();
  lines_.push_back(std::move(entry));
  state_ = take::state_of(lines_);
}

void ShootRun::start_standin(const standin::RigSetting& rig, const std::filesystem::path& journal,
                             Seconds interval_s, long long count, bool empty_card_first) {
  std::error_code ec;
  std::filesystem::remove(journal, ec);
  lines_.clear();
  journal_.open(journal);
  rig_ = rig;
  empty_first_ = empty_card_first;
  taking_up_ = read_back_ = stopping_ = false;
  last_.reset();
  landed_.reset();
  interval_s_ = interval_s;
  count_ = count;
  state_ = {};
  state_.active = state_.standin = true;
  const QString name = link_.launch();
  state_.socket = name.toStdString();
  emit changed();
}

void ShootRun::send_rig() {
  const auto refused = [this](const Json& reply) {
    if (reply.value("ok", false)) return false;
    emit trouble(QString::fromStdString(reply.value("error", "The stand-in refused.")));
    end(true);
    return true;
  };
  const Json sent = standin::to_json(rig_);
  link_.ask({{"cmd", "set"}, {"rig", sent}}, [this, sent, refused](const Json& reply) {
    if (refused(reply)) return;
    link_.ask({{"cmd", "read"}}, [this, sent, refused](const Json& back) {
      if (refused(back)) return;
      if (back["rig"]["timer"] != sent["timer"] ||
          back["rig"]["camera"]["clicks"] != sent["camera"]["clicks"]) {
        emit trouble("The stand-in's timer does not stand on what it was told.");
        return end(true);
      }
      read_back_ = true;
      const auto go = [this, refused] {
        link_.ask({{"cmd", "start"}}, [this, refused](const Json& started) {
          if (refused(started)) return;
          const double delay = rig_.scale > 0 ? rig_.delay_s / rig_.scale : 0;
          write({{"what", "start"},
                 {"standin", true},
                 {"socket", link_.name().toStdString()},
                 {"scale", rig_.scale},
                 {"first_ms", later(now(), delay).time_since_epoch().count()},
                 {"interval_s", interval_s_},
                 {"count", count_}});
          write_ticks();
          emit changed();
        });
      };
      if (empty_first_)
        link_.ask({{"cmd", "empty"}}, [go, refused](const Json& emptied) {
          if (!refused(emptied)) go();
        });
      else
        go();
    });
  });
}

void ShootRun::start_companion(Instant first, Seconds interval_s, long long count,
                               const std::filesystem::path& journal) {
  std::error_code ec;
  std::filesystem::remove(journal, ec);
  lines_.clear();
  journal_.open(journal);
  last_.reset();
  landed_.reset();
  write({{"what", "start"},
         {"standin", false},
         {"scale", 1.0},
         {"first_ms", first.time_since_epoch().count()},
         {"interval_s", interval_s},
         {"count", count}});
  write_ticks();
  emit changed();
}

void ShootRun::write_ticks() {
  for (const auto& [code, at] : ticks_)
    write({{"what", "tick"}, {"code", code}, {"done_ms", at.time_since_epoch().count()}});
}

bool ShootRun::take_up(const std::filesystem::path& journal, const std::filesystem::path& card) {
  if (state_.active) return true;
  lines_ = take::read_journal(journal);
  state_ = take::state_of(lines_);
  if (!state_.active) return false;
  journal_.open(journal);
  rig_.card = card;
  taking_up_ = true;
  stopping_ = false;
  if (state_.standin) link_.connect_to(QString::fromStdString(state_.socket), 1500);
  emit changed();
  return true;
}

void ShootRun::heard(const Json& e) {
  const std::string kind = e.value("event", "");
  if (e.value("number", 0LL) <= state_.last_event && kind != "done") return;
  if (kind == "done") {
    const Json outcome = e.value("outcome", Json::object());
    if (outcome.contains("error")) emit trouble(QString::fromStdString(outcome["error"].get<std::string>()));
    return end(stopping_ || outcome.contains("error"));
  }
  last_ = e;
  if (kind == "shot") {
    write({{"what", "shot"},
           {"number", e["number"]},
           {"frame", e["index"]},
           {"file", e["files"].empty() ? "" : e["files"].back().get<std::string>()}});
    standin::ShotLanded l;
    l.file = rig_.card.empty() ? std::filesystem::path(e["files"].back().get<std::string>())
                               : rig_.card / e["files"].back().get<std::string>();
    l.index = e["index"];
    l.done = e["done"];
    l.total = e["total"];
    l.start = Instant(std::chrono::milliseconds(e["start_ms"].get<long long>()));
    const Json& x = e["exposure"];
    l.exposure = {x["shutter_s"], x["f_number"], x["iso"]};
    landed_ = l;
    emit shot_landed();
  } else if (kind == "missed") {
    write({{"what", "missed"}, {"number", e["number"]}, {"frame", e["press"]}, {"why", e["what"]}});
  } else if (kind == "fault") {
    write({{"what", "note"},
           {"number", e["number"]},
           {"frame", e["index"]},
           {"words", e["words"]},
           {"fault", e["what"]}});
    emit fault(QString::fromStdString(e["words"].get<std::string>()));
  }
  emit changed();
}

void ShootRun::end(bool stopped) {
  if (!state_.active) return;
  write({{"what", "end"}, {"stopped", stopped}});
  state_.active = false;
  journal_.close();
  link_.close();
  emit changed();
  emit ended(stopped);
}

void ShootRun::pause() {
  if (!state_.active || state_.paused) return;
  if (state_.standin) link_.ask({{"cmd", "pause"}});
  write({{"what", "pause"}});
  emit changed();
}

void ShootRun::resume() {
  if (!state_.active || !state_.paused) return;
  if (state_.standin) link_.ask({{"cmd", "resume"}});
  write({{"what", "resume"}});
  emit changed();
}

void ShootRun::stop() {
  if (!state_.active) return;
  stopping_ = true;
  if (state_.standin && link_.is_connected())
    link_.ask({{"cmd", "stop"}});
  else
    end(true);
}

void ShootRun::turn(ramp::Dial dial, bool brighter) {
  static constexpr const char* words[] = {"shutter", "aperture", "iso"};
  if (state_.active && state_.standin)
    link_.ask({{"cmd", "turn"}, {"dial", words[static_cast<int>(dial)]}, {"thirds", brighter ? 1 : -1}});
}

void ShootRun::swap(const QString& what) {
  if (!state_.active || !state_.standin) return;
  link_.ask({{"cmd", "swap"}, {"what", what.toStdString()}});
  note(state_.frame_at(now()), "Changed the " + what);
}

void ShootRun::change_done(long long click, long long frame, long long planned, bool skipped) {
  if (!state_.active) return;
  write({{"what", "change"}, {"click", click}, {"frame", frame}, {"planned", planned}, {"skipped", skipped}});
  emit changed();
}

void ShootRun::note(long long frame, const QString& words) {
  if (!state_.active || words.trimmed().isEmpty()) return;
  write({{"what", "note"}, {"frame", frame}, {"words", words.trimmed().toStdString()}});
  emit changed();
}

void ShootRun::put_at(long long frame) {
  if (!state_.active) return;
  write({{"what", "put"}, {"frame", frame}});
  emit changed();
}

}  // namespace askcount::app
