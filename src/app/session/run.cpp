// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/run.h"

#include <nlohmann/json.hpp>

#include "app/style/text.h"
#include "base/error.h"

namespace askcount::app {
namespace {

constexpr int kTakeUp_ms = 1500;

Json ms_of(Instant at) {
  return at.time_since_epoch().count();
}

}  // namespace

Run::~Run() = default;

Run::Run(QObject* parent) : QObject(parent) {
  connect(&journal_, &JournalWriter::trouble, this, &Run::trouble);
  connect(&link_, &link::StandinLink::event, this, &Run::heard);
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
    emit trouble(why + say_q(" What was shot is on the card, and the journal is complete."));
    end(true);
  });
}

void Run::write(Json entry) {
  if (!begun_) return;  // refused, or not yet started: no journal is made for it
  lines_.push_back(journal_.append(std::move(entry)));
  state_ = journal::state_of(lines_);
}

void Run::write_start(bool standin, Instant first, double scale) {
  begun_ = true;
  Json start = {{"what", "start"},
                {"standin", standin},
                {"socket", standin ? link_.name().toStdString() : std::string()},
                {"scale", scale},
                {"first_ms", ms_of(first)},
                {"interval_s", plan_.interval_s},
                {"count", plan_.count}};
  if (!plan_.runs.empty()) {
    start["runs"] = Json::array();
    for (const journal::ShootState::Run& r : plan_.runs) start["runs"].push_back({r.first, r.from_s});
  }
  if (plan_.dials) {
    start["shutter_s"] = plan_.dials->shutter_s;
    start["f_number"] = plan_.dials->f_number;
    start["iso"] = plan_.dials->iso;
  }
  write(std::move(start));
  for (const auto& [code, at] : plan_.ticks)
    write({{"what", "tick"}, {"code", code}, {"done_ms", ms_of(at)}});
}

void Run::begin(const RunPlan& plan) {
  plan_ = plan;
  journal_.wait();  // of the shoot before
  journal_.open(plan.journal);
  lines_.clear();
  begun_ = false;
  taking_up_ = read_back_ = stopping_ = false;
  live_.reset();
  landed_.reset();
  state_ = {};
}

void Run::start_standin(const simulate::RigSetting& rig, const RunPlan& plan) {
  begin(plan);
  rig_ = rig;
  state_.active = state_.standin = true;
  state_.socket = link_.launch().toStdString();
  emit changed();
}

bool Run::refused(const Json& reply) {
  if (reply.value("ok", false)) return false;
  emit trouble(QString::fromStdString(reply.value("error", say("The stand-in refused."))));
  end(true);
  return true;
}

void Run::send_rig() {
  const Json sent = simulate::to_json(rig_);
  link_.ask({{"cmd", "set"}, {"rig", sent}}, [this, sent](const Json& reply) {
    if (refused(reply)) return;
    link_.ask({{"cmd", "read"}}, [this, sent](const Json& back) {
      if (refused(back)) return;
      const Json& rig = back.at("rig");
      if (rig.at("timer") != sent.at("timer") ||
          rig.at("camera").at("clicks") != sent.at("camera").at("clicks")) {
        emit trouble(say_q("The stand-in's timer is not set to what it was told."));
        return end(true);
      }
      read_back_ = true;
      link_.ask({{"cmd", "empty"}}, [this](const Json& emptied) {
        if (refused(emptied)) return;
        if (const long long kept = emptied.value("kept_count", 0LL); kept > 0) {
          emit trouble(QString(say_q("The card holds %1 files that the stand-in did not make, such as %2. "
                                     "They are left alone; choose an empty folder."))
                           .arg(kept)
                           .arg(QString::fromStdString(emptied.at("kept").at(0).get<std::string>())));
          return end(true);
        }
        start_sent();
      });
    });
  });
}

void Run::start_sent() {
  link_.ask({{"cmd", "start"}}, [this](const Json& started) {
    if (refused(started)) return;
    write_start(true, later(now(), rig_.scale > 0 ? rig_.delay_s / rig_.scale : 0), rig_.scale);
    emit changed();
  });
}

void Run::start_companion(Instant first, const RunPlan& plan) {
  begin(plan);
  write_start(false, first, 1);
  emit changed();
}

void Run::take_up(const std::filesystem::path& journal, const std::filesystem::path& card) {
  journal_.wait();
  try {
    lines_ = journal::read_journal(journal);
  } catch (const Error& e) {
    lines_.clear();
    emit trouble(QString::fromUtf8(e.what()));
  }
  state_ = journal::state_of(lines_);
  if (!state_.active) return;
  journal_.open(journal);
  begun_ = true;
  rig_.card = card;
  taking_up_ = true;
  stopping_ = false;
  if (state_.standin) link_.connect_to(QString::fromStdString(state_.socket), kTakeUp_ms);
  emit changed();
}

void Run::leave() {
  link_.close();
  lines_.clear();
  state_ = {};
  live_.reset();
  landed_.reset();
  read_back_ = false;
  emit changed();
}

void Run::heard_shot(const Json& e) {
  const std::string file = e.at("files").empty() ? std::string() : e.at("files").back().get<std::string>();
  write({{"what", "shot"}, {"number", e.at("number")}, {"frame", e.at("index")}, {"file", file}});
  simulate::ShotLanded shot;
  shot.file = rig_.card.empty() ? std::filesystem::path(file) : rig_.card / file;
  shot.index = e.at("index");
  shot.done = e.at("done");
  shot.total = e.at("total");
  shot.start = Instant(std::chrono::milliseconds(e.at("start_ms").get<long long>()));
  const Json& x = e.at("exposure");
  shot.exposure = {x.at("shutter_s"), x.at("f_number"), x.at("iso")};
  landed_ = shot;
  emit shot_landed();
}

void Run::heard(const Json& e) {
  const std::string kind = e.value("event", "");
  if (e.value("number", 0LL) <= state_.last_event && kind != "done") return;
  if (kind == "done") {
    const Json outcome = e.value("outcome", Json::object());
    if (outcome.contains("error"))
      emit trouble(QString::fromStdString(outcome.at("error").get<std::string>()));
    return end(stopping_ || outcome.contains("error"));
  }
  live_ = advice::Live{e.value("battery", 1.0), e.value("card", 0.0), e.value("buffer", 0.0)};
  if (kind == "shot") {
    heard_shot(e);
  } else if (kind == "missed") {
    write({{"what", "missed"}, {"number", e.at("number")}, {"frame", e.at("press")}, {"why", e.at("what")}});
  } else if (kind == "fault") {
    write({{"what", "note"},
           {"number", e.at("number")},
           {"frame", e.at("index")},
           {"words", e.at("words")},
           {"fault", e.at("what")}});
    emit fault(QString::fromStdString(e.at("words").get<std::string>()));
  }
  emit changed();
}

void Run::end(bool stopped) {
  if (!state_.active) return;
  write({{"what", "end"}, {"stopped", stopped}});
  state_.active = false;
  link_.close();
  emit changed();
  emit ended(stopped);
}

void Run::pause() {
  if (!state_.active || state_.paused) return;
  if (state_.standin) link_.ask({{"cmd", "pause"}});
  write({{"what", "pause"}});
  emit changed();
}

void Run::resume() {
  if (!state_.active || !state_.paused) return;
  if (state_.standin) link_.ask({{"cmd", "resume"}});
  write({{"what", "resume"}});
  emit changed();
}

void Run::stop() {
  if (!state_.active) return;
  stopping_ = true;
  if (state_.standin && link_.is_connected())
    link_.ask({{"cmd", "stop"}});
  else
    end(true);
}

namespace {

const char* word_of(ramp::Dial dial) {
  static constexpr const char* words[] = {"shutter", "aperture", "iso"};
  return words[static_cast<int>(dial)];
}

}  // namespace

void Run::turn(long long frame, const ramp::Click& click, bool planned) {
  if (!state_.active) return;
  const int thirds = click.brighter ? 1 : -1;
  if (state_.standin) link_.ask({{"cmd", "turn"}, {"dial", word_of(click.dial)}, {"thirds", thirds}});
  write({{"what", "turn"},
         {"frame", frame},
         {"dial", word_of(click.dial)},
         {"thirds", thirds},
         {"planned", planned}});
  emit changed();
}

void Run::set_dials(long long frame, const ramp::Exposure& dials, bool filters_off) {
  if (!state_.active) return;
  write({{"what", "dials"},
         {"frame", frame},
         {"shutter_s", dials.shutter_s},
         {"f_number", dials.f_number},
         {"iso", dials.iso},
         {"filters_off", filters_off}});
  emit changed();
}

void Run::skip(long long frame) {
  if (!state_.active) return;
  write({{"what", "skip"}, {"frame", frame}});
  emit changed();
}

void Run::metered(long long frame, double ev) {
  if (!state_.active) return;
  write({{"what", "meter"}, {"frame", frame}, {"ev100", ev}});
  emit changed();
}

void Run::swap(const QString& what) {
  if (!state_.active) return;
  if (state_.standin) link_.ask({{"cmd", "swap"}, {"what", what.toStdString()}});
  note(state_.frame_at(now()), what == "power" ? QString("On external power") : "Changed the " + what);
}

void Run::note(long long frame, const QString& words) {
  if (!state_.active || words.trimmed().isEmpty()) return;
  write({{"what", "note"}, {"frame", frame}, {"words", words.trimmed().toStdString()}});
  emit changed();
}

void Run::put_at(long long frame) {
  if (!state_.active) return;
  write({{"what", "put"}, {"frame", frame}});
  emit changed();
}

}  // namespace askcount::app

#include "moc_run.cpp"
