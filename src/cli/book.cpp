// SPDX-License-Identifier: GPL-3.0-or-later
// askcount book: the log of takes, and what the kit really does.
#include "book/book.h"

#include <fmt/format.h>

#include <algorithm>
#include <memory>

#include "advice/by_stage.h"
#include "advice/gather_advice.h"
#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/process.h"
#include "base/units.h"
#include "book/again.h"
#include "book/beside.h"
#include "book/clocks.h"
#include "book/kit.h"
#include "book/learn.h"
#include "book/rebuild.h"
#include "book/tables.h"
#include "book/told.h"
#include "filing.h"
#include "forecast/gather.h"
#include "forecast/light.h"
#include "gathering.h"
#include "inspect/store.h"
#include "sky/behind.h"
#include "take/edit.h"
#include "take/fix.h"
#include "take_options.h"
#include "verbs.h"

namespace askcount::cli {
namespace {
namespace fs = std::filesystem;

struct BookOptions {
  std::string book;
  std::vector<std::string> where;
  std::string csv, page, pdf;
  bool force = false;
  // add
  std::vector<std::string> what;
  std::string name, subject, place, start, interval;
  std::string zone;
  std::optional<int> frames, planned;
  std::optional<double> fps, latitude, longitude;
  // note, show, again
  std::string take;
  std::vector<std::string> takes;
  std::string note;
  std::optional<std::string> change, verdict;
  std::string into, date, output;
  int days = 730;
};

const char* sign(book::Verdict v) {
  static constexpr const char* signs[] = {" ", "✓", "▲", "✕"};
  return signs[static_cast<int>(v)];
}

Answer list_verb(const BookOptions& asked) {
  const auto book = open_book(book_file(asked.book));
  const book::Query query = book::query_of(asked.where);
  const book::Listing listing = book->list(query);
  std::vector<book::Entry> entries;
  Json takes = Json::array();
  Answer answer;
  for (const book::Row& r : listing.rows) {
    entries.push_back(book->entry(r.id).value_or(book::Entry{}));
    const bool there = book::is_there(r);
    takes.push_back(book::answer_json(entries.back(), there));
    answer.words += fmt::format("{} {:32} {:28} {:>12} {}{}\n", sign(r.words.verdict), r.name,
                                book::where_and_when(r), book::frames_words(r), book::flicker_words(r),
                                there ? "" : "  (not where it was: " + r.file + ")");
  }
  if (!asked.csv.empty())
    write_file_atomically({asked.csv, FileKind::Table, {{}, asked.force}}, book::csv_of(entries));
  const book::Printed printed = book::printed_of(*book, query, listing);
  if (!asked.page.empty()) {
    std::vector<std::string> pictures;
    for (const book::Row& r : listing.rows) pictures.push_back(book->picture(r.id));
    write_file_atomically({asked.page, FileKind::Page, {{}, asked.force}}, book::page_of(printed, pictures));
  }
  if (!asked.pdf.empty()) book::write_sheet(printed, asked.pdf, {{}, asked.force});
  Json kit = Json::array();
  for (const book::KitFact& f : book::kit_facts(book->measures(), {})) kit.push_back(book::answer_json(f));
  answer.json = {{"book", book->path().string()},
                 {"takes", takes},
                 {"frames", listing.frames},
                 {"film_s", rounded(listing.film_s, 3)},
                 {"kit", kit}};
  answer.words += fmt::format("{}, with {} and {} of film.\n",
                              counted(static_cast<long long>(listing.rows.size()), "{} take", "{} takes"),
                              counted(listing.frames, "{} frame", "{} frames"),
                              format_length(std::max(0.0, listing.film_s), 0));
  return answer;
}

/// A take with the frames on its cards, where these are there.
book::Entry entry_of_take(const fs::path& file) {
  const take::Take take = take::load_take(file);
  book::Entry entry = book::entry_of(take, file);
  std::error_code ec;
  const fs::path card = file.parent_path() / take.card;
  if (take.card.empty() || !fs::exists(card, ec)) return entry;
  try {
    const ingest::Gathered found = gather_shown(forecast::gather_ask(take, {card}));
    book::learn(entry, take, found);
    entry.picture = book::picture_of(found.frames);
    if (const auto look = inspect::kept_look(inspect::store_of(file), found.frames)) {
      const auto faults = inspect::faults_of(found, *look, forecast::planned_of(take, found.frames->size()));
      book::learn(entry, advice::open_faults(take, found, faults));
    }
  } catch (const Error& e) {
    complain(fmt::format("askcount: {}\n", e.what()));
  }
  return entry;
}

std::vector<book::Entry> entries_of(const fs::path& what) {
  const std::string ending = lowered(what.extension().string());
  if (ending == ".askcount") return {entry_of_take(what)};
  if (ending == ".csv") return book::entries_from_csv(read_file(what), what.string());
  if (ending == ".json") return book::entries_from_json(read_json(what), what.string());
  std::error_code ec;
  if (fs::is_directory(what, ec)) {
    std::vector<book::Entry> takes;
    for (const book::Entry& e : book::takes_below(what)) takes.push_back(entry_of_take(e.file));
    if (!takes.empty()) return takes;
  }
  ingest::Ask ask;
  ask.folders = {what};
  const ingest::Gathered found = gather_shown(ask);
  book::Entry entry = book::entry_of(found, what);
  entry.picture = book::picture_of(found.frames);
  return {entry};
}

/// What the options say of that entry.
book::Told told_of(const BookOptions& asked, const book::Entry& of) {
  book::Told told;
  told.name = asked.name;
  told.subject = asked.subject;
  told.place = asked.place;
  told.zone = asked.zone;
  told.latitude_deg = asked.latitude;
  told.longitude_deg = asked.longitude;
  if (!asked.start.empty())
    told.start = parse_instant(asked.start, asked.zone.empty() ? of.place.zone : asked.zone);
  if (!asked.interval.empty()) told.interval_s = parse_length(asked.interval, "--interval");
  told.frames = asked.frames;
  told.planned = asked.planned;
  told.fps = asked.fps;
  if (!asked.note.empty()) told.note = asked.note;
  told.change = asked.change;
  if (asked.verdict) told.verdict = book::verdict_of(*asked.verdict);
  return told;
}

Answer add_verb_answer(const BookOptions& asked) {
  std::vector<book::Entry> entries;
  for (const std::string& what : asked.what)
    for (book::Entry& e : entries_of(what)) entries.push_back(std::move(e));
  const bool said = !asked.name.empty();
  if (entries.empty() && !said)
    throw bad_input("There is nothing to add to the book.",
                    "Name a folder of frames, a take or a table, or enter one with --name.");
  if (said && entries.size() > 1) throw bad_input("--name is for one take.");
  if (entries.empty()) {
    entries.emplace_back();
    entries.front().how = book::How::Hand;
  }
  for (book::Entry& e : entries) {
    tell(e, told_of(asked, e));
  }
  const auto book = open_book(book_file(asked.book));
  const std::vector<long long> ids = book->file(entries);
  Json takes = Json::array();
  Answer answer;
  for (const long long id : ids) {
    const book::Entry e = book->entry(id).value_or(book::Entry{});
    takes.push_back(book::answer_json(e, true));
    answer.words += fmt::format("{}: {}.\n", e.name,
                                e.frames() ? counted(*e.frames(), "{} frame", "{} frames") : "no frames yet");
  }
  answer.json = {{"takes", takes}};
  return answer;
}

Answer note_verb(const BookOptions& asked) {
  const auto book = open_book(book_file(asked.book));
  const long long id = book->find(asked.take);
  book::Entry e = book->entry(id).value_or(book::Entry{});
  if (!asked.note.empty()) e.words.note = asked.note;
  if (asked.change) e.words.change = *asked.change;
  if (asked.verdict) e.words.verdict = book::verdict_of(*asked.verdict);
  e.words.asked = true;
  book->say(id, e.words);
  std::error_code ec;
  return {book::answer_json(e, e.file.empty() || fs::exists(e.file, ec)),
          fmt::format("{}: {}{}\n", e.name, e.words.note,
                      e.words.change.empty() ? "" : " Next time: " + e.words.change)};
}

Answer out_verb(const BookOptions& asked) {
  const auto book = open_book(book_file(asked.book));
  std::vector<long long> ids;  // all of them are known before the first goes
  for (const std::string& name : asked.takes) ids.push_back(book->find(name));
  std::sort(ids.begin(), ids.end());
  ids.erase(std::unique(ids.begin(), ids.end()), ids.end());
  Answer answer;
  Json takes = Json::array();
  for (const long long id : ids) {
    const book::Entry e = book->take_out(id);
    takes.push_back({{"name", e.name}, {"file", e.file}});
    answer.words += fmt::format("{} is out of the book; its files stay.\n", e.name);
  }
  answer.json = {{"taken_out", takes}};
  return answer;
}

Answer kit_verb(const BookOptions& asked) {
  const auto book = open_book(book_file(asked.book));
  std::optional<take::Take> take;
  std::optional<take::Edited> edited;
  if (!asked.into.empty()) take = edited.emplace(asked.into).take;
  const plan::Kit kit = take ? take->kit : plan::Kit{};
  const auto facts = book::kit_facts(book->measures(), kit);
  advice::Known known;
  known.kit = book::judge(facts, kit, take ? take->light.turning_s : 0);
  known.mistakes = book::judge_mistakes(book->mistakes(), take ? take->again : decltype(take->again){});
  known.practice = book::judge_practice(book->scores());
  Findings findings = advice::findings_on(advice::Stage::Book, take.value_or(take::Take{}), known);
  Answer answer;
  Json list = Json::array(), brought = Json::array();
  for (const book::KitFact& f : facts) list.push_back(book::answer_json(f));
  if (take) {
    take::Take next = *take;
    for (const Finding& f : findings)
      if (f.fix) {
        next = take::with_fix(next, *f.fix);
        brought.push_back(f.title);
      }
    if (!(next == *take)) {
      edited->take = next;
      edited->save();
    }
    for (const Json& title : brought)
      answer.words += fmt::format("into the take: {}\n", title.get<std::string>());
  } else {
    for (Finding& f : findings) f.fix.reset();
  }
  answer.json = {{"kit", list}, {"findings", to_json(findings)}};
  if (take) answer.json["brought_in"] = brought;
  answer.words += words_of(findings);
  if (findings.empty()) answer.words = "The takes in the book say nothing of the kit yet.\n";
  return answer;
}

Answer show_verb(const BookOptions& asked) {
  const auto book = open_book(book_file(asked.book));
  std::vector<book::Entry> entries;
  Json takes = Json::array(), lines = Json::array();
  for (const std::string& name : asked.takes) {
    entries.push_back(book->entry(book->find(name)).value_or(book::Entry{}));
    takes.push_back(book::to_json(entries.back()));
  }
  Answer answer;
  std::string group;
  for (const book::Line& l : book::lines_of(entries)) {
    lines.push_back({{"group", l.group}, {"what", l.what}, {"each", l.each}, {"differ", l.differ}});
    if (l.group != group) answer.words += fmt::format("{}{}\n", group.empty() ? "" : "\n", l.group);
    group = l.group;
    answer.words += fmt::format("  {:24}", l.what);
    for (const std::string& words : l.each) answer.words += fmt::format("{:35} ", words);
    answer.words += "\n";
  }
  answer.json = {{"takes", takes}, {"lines", lines}};
  return answer;
}

Answer again_verb(const BookOptions& asked) {
  const fs::path file = [&]() -> fs::path {
    std::error_code ec;
    if (fs::is_regular_file(asked.take, ec)) return asked.take;
    const auto book = open_book(book_file(asked.book));
    const book::Entry e = book->entry(book->find(asked.take)).value_or(book::Entry{});
    if (e.how != book::How::Take)
      throw bad_input(fmt::format(
          "\"{}\" was not planned with Ask Count: there is no take to begin again from.", e.name));
    return e.file;
  }();
  const take::Take old = take::load_take(file);
  if (!old.knows_sky())
    throw bad_input(fmt::format("{} has no place and time.", file.string()), "Set them in the take.");
  const Day from = asked.date.empty() ? day_of(now(), old.place.zone) : parse_day(asked.date);
  const sky::Body body = forecast::body_to_keep(old);
  const auto when = book::again(body, old.start, old.place, day_start(from, old.place.zone), asked.days);
  Answer answer;
  Json list = Json::array();
  for (const book::Again& a : when) {
    list.push_back({{"start", format_iso(a.at, old.place.zone)},
                    {"off_deg", rounded(a.off_deg, 2)},
                    {"moon_lit", rounded(a.moon_lit, 2)}});
    const Day day = day_of(a.at, old.place.zone);
    answer.words +=
        fmt::format("{} {} {}: the {} {}° from where it stood, the moon {} % lit\n", day_words(day),
                    static_cast<int>(day.year()), format_clock(a.at, old.place.zone), sky::body_word(body),
                    format_number(a.off_deg, 1), std::lround(a.moon_lit * 100));
  }
  if (when.empty())
    answer.words =
        fmt::format("In {} from {} the {} does not stand there.\n", counted(asked.days, "{} day", "{} days"),
                    format_day(from), sky::body_word(body));
  answer.json = {{"body", sky::body_word(body)}, {"again", list}};
  if (!asked.output.empty()) {
    take::Take next = book::begun_again(old, from);
    if (asked.date.empty() && !when.empty()) take::start_at(next, when.front().at);
    if (!asked.output.ends_with(".askcount"))
      throw bad_input(fmt::format("{} is not a take's file name.", asked.output), "End it in .askcount.");
    save_new(next, asked.output, {{file}, asked.force});
    answer.json["take"] = asked.output;
    answer.words += fmt::format("{}: begins {}.\n", asked.output, format_iso(next.start, next.place.zone));
  }
  return answer;
}

Answer check_book_verb(const BookOptions& asked) {
  book::Book book(book_file(asked.book));
  const int anew = book.check();
  const auto takes = static_cast<long long>(book.list().rows.size());
  Answer answer;
  answer.json = {{"book", book.path().string()},
                 {"whole", book.told().empty() && anew == 0},
                 {"told", book.told()},
                 {"made_anew", anew},
                 {"takes", takes}};
  answer.words = !book.told().empty() ? book.told() + "\n"
                                      : fmt::format("{} is sound: {}.\n", book.path().string(),
                                                    counted(takes, "{} take", "{} takes"));
  if (anew > 0) answer.words = made_anew_words(anew) + "\n" + answer.words;
  return answer;
}

/// Adds the verbs of the book, which share their options.
class BookVerbs {
 public:
  explicit BookVerbs(Chosen& chosen) : chosen_(chosen), asked_(std::make_shared<BookOptions>()) {}
  void add_list(Command& app);

 private:
  void add_add(const Verb& list);
  void add_changes(const Verb& list);
  void add_looks(const Verb& list);
  void with_book(const Verb& verb) const {
    verb.add_option("--book", asked_->book, "Another book than your own").called("FILE");
  }
  void words(const Verb& verb) const {
    verb.add_option("--verdict", asked_->verdict, "How it went").one_of({"well", "fairly", "badly"});
    verb.add_option("--change", asked_->change, "The one thing to do differently");
  }
  void runs(const Verb& verb, Answer (*what)(const BookOptions&), bool stoppable = false) const {
    verb.callback([&chosen = chosen_, asked = asked_, what, stoppable] {
      if (chosen.run) return;  // a verb below it was typed
      chosen.stoppable = stoppable;
      chosen.run = [asked, what] { return what(*asked); };
    });
  }

  Chosen& chosen_;
  std::shared_ptr<BookOptions> asked_;
};

void BookVerbs::add_list(Command& app) {
  const Verb list = add_verb(app, chosen_, "book", "The log of takes: what was planned, and what came of it");
  with_book(list);
  list.add_option("--where", asked_->where,
                  "Only these: subject=…, place=…, month=10, verdict=well, or words found anywhere");
  list.add_option("--csv", asked_->csv, "Write them as a table");
  list.add_option("--page", asked_->page, "Write them as a page for a browser (HTML)");
  list.add_option("--pdf", asked_->pdf, "Write them as a sheet to print");
  add_force(list, asked_->force);
  add_add(list);
  add_changes(list);
  add_looks(list);
  runs(list, list_verb);
}

void BookVerbs::add_add(const Verb& list) {
  const Verb add = add_verb(list, chosen_, "add",
                            "Add a folder of frames, takes, a table, or a take entered by its options");
  with_book(add);
  add.add_option("what", asked_->what, "Folders of frames, .askcount, .csv or .json files");
  add.add_option("--name", asked_->name, "Its name; without a folder it is entered by hand");
  add.add_option("--subject", asked_->subject, "What moved");
  add.add_option("--place", asked_->place, "Where");
  add.add_option("--lat", asked_->latitude, "Degrees north").between(-90.0, 90.0);
  add.add_option("--lon", asked_->longitude, "Degrees east").between(-180.0, 180.0);
  add.add_option("--zone", asked_->zone, "The place's time zone");
  add.add_option("--start", asked_->start, "When the first shot was");
  add.add_option("--frames", asked_->frames, "How many there are").between(1, 10000000);
  add.add_option("--planned", asked_->planned, "How many were planned").between(1, 10000000);
  add.add_option("--interval", asked_->interval, "Time from shot to shot");
  add.add_option("--fps", asked_->fps, "Frame rate of its film").between(1.0, 1000.0);
  words(add);
  add.add_option("--note", asked_->note, "What there is to remember");
  runs(add, add_verb_answer, true);
}

void BookVerbs::add_changes(const Verb& list) {
  const Verb note = add_verb(list, chosen_, "note", "Note how a take went and what to remember");
  with_book(note);
  note.add_option("take", asked_->take, "Its name or file").required();
  note.add_option("note", asked_->note, "What there is to remember");
  words(note);
  runs(note, note_verb);

  const Verb out = add_verb(list, chosen_, "out", "Take entries out of the book; the takes' files stay");
  with_book(out);
  out.add_option("take", asked_->takes, "Their names as in the book, or their files").required();
  runs(out, out_verb);
}

void BookVerbs::add_looks(const Verb& list) {
  const Verb kit = add_verb(list, chosen_, "kit", "What the kit really does, over all takes");
  with_book(kit);
  kit.add_option("--into", asked_->into, "Put it into this take's kit and checklist").called("TAKE");
  runs(kit, kit_verb);

  const Verb show = add_verb(list, chosen_, "show", "One take, or two side by side");
  with_book(show);
  show.add_option("take", asked_->takes, "Names or files").required().counted(2);
  runs(show, show_verb);

  const Verb again =
      add_verb(list, chosen_, "again", "When sun, moon or core stand there again; a new take from it");
  with_book(again);
  again.add_option("take", asked_->take, "Its name or file").required();
  again.add_option("--date", asked_->date, "The first day to look at, and the day of the new take");
  again.add_option("--days", asked_->days, "How many days are looked at").between(1, 730);
  again.add_option("-o,--output", asked_->output, "Start a new take from it").called("FILE");
  add_force(again, asked_->force);
  runs(again, again_verb);

  const Verb check = add_verb(list, chosen_, "check", "Read the whole book; a damaged one is rebuilt");
  with_book(check);
  runs(check, check_book_verb);
}

}  // namespace

void add_book(Command& app, Chosen& chosen) {
  BookVerbs(chosen).add_list(app);
}

}  // namespace askcount::cli
