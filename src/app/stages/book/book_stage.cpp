// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/stages/book/book_stage.h"
#include "advice/by_stage.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QMenu>
#include <QMessageBox>
#include <QPushButton>
#include <QVBoxLayout>

#include "advice/when.h"
#include "app/stages/book/hand_dialog.h"
#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "app/widgets/link_label.h"
#include "base/error.h"
#include "base/language.h"
#include "base/units.h"
#include "book/clocks.h"
#include "book/kit.h"
#include "forecast/light.h"

namespace askcount::app {
namespace {

QStringList month_words() {
  return {say_q("any month"), say_q("January"),  say_q("February"), say_q("March"),  say_q("April"),
          say_q("May"),       say_q("June"),     say_q("July"),     say_q("August"), say_q("September"),
          say_q("October"),   say_q("November"), say_q("December")};
}
QStringList verdict_words() {
  return {say_q("went well or badly"), say_q("went well"), say_q("went fairly"), say_q("went badly"),
          say_q("are not judged yet")};
}
QStringList went_choices() {
  return {say_q("not said yet"), say_q("well"), say_q("fairly"), say_q("badly")};
}

SlotField* slot(Sentence* sentence, const QString& before, const QString& name) {
  if (!before.isEmpty()) sentence->add(before);
  return sentence->add_slot(name);
}

}  // namespace

BookStage::BookStage(Session& session, QWidget* parent) : Stage(session, parent) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(26, 16, 26, 10);
  rows->setSpacing(8);
  make_list_sentence();
  rows->addWidget(sentence_);
  pages_ = new QStackedWidget(this);
  list_ = new BookList(session.book, pages_);
  beside_ = new BesideView(pages_);
  pages_->addWidget(list_);
  pages_->addWidget(beside_);
  rows->addWidget(pages_, 1);
  rows->addWidget(make_chosen_panel());
  connect(list_, &BookList::chosen_changed, this, &BookStage::show_chosen);
  connect(list_, &BookList::opened, this, &BookStage::open);
  connect(&session.book, &BookKeeper::filed, list_, &BookList::choose);
  connect(&session.book, &BookKeeper::again_found, this,
          [this](long long id, const std::vector<book::Again>& when) {
            if (id != list_->chosen()) return;
            again_found_ = when;
            show_chosen();
          });
  refresh_when_seen(this, [this] { refresh(); })
      .on(session.book, &BookKeeper::changed)
      .on(session.document, &Document::changed);
  say_keys();
  refresh();
}

void BookStage::make_list_sentence() {
  sentence_ = new Sentence(this, 13);
  subject_ = slot(sentence_, say_q("Takes of"), say_q("subject of the takes"));
  place_ = slot(sentence_, say_q("at|takes of the book"), say_q("place of the takes"));
  month_ = slot(sentence_, say_q("in|takes of the book"), say_q("month of the takes"));
  verdict_ = slot(sentence_, say_q("that|takes of the book"), say_q("how they went"));
  words_ = slot(sentence_, say_q("with|takes of the book"), say_q("words anywhere"));
  count_ = slot(sentence_, ":", say_q("how many takes"));
  frames_ = slot(sentence_, say_q(", with"), say_q("how many frames"));
  film_ = slot(sentence_, say_q("and|takes of the book"), say_q("how much film"));
  sentence_->add(say_q("of film."));
  for (SlotField* answer : {count_, frames_, film_}) answer->setEnabled(false);
  // One of those there are, stepped round by the arrows; typed, where there are more than a menu holds.
  const auto one_of = [this](SlotField* slot, const QString& any, std::string book::Query::*part,
                             QStringList Shelf::*list) {
    const auto choose = [this, any, part](const QString& words) {
      query_.*part = words == any ? "" : words.trimmed().toStdString();
      ask();
    };
    connect(slot, &SlotField::committed, this, choose);
    connect(slot, &SlotField::nudged, this, [this, slot, any, list, choose](int steps) {
      const QStringList all = QStringList{any} + session_.book.shelf().*list;
      const auto n = all.size();
      choose(
          all[static_cast<int>(((std::max<qsizetype>(0, all.indexOf(slot->text())) - steps) % n + n) % n)]);
    });
  };
  one_of(subject_, say_q("anything"), &book::Query::subject, &Shelf::subjects);
  one_of(place_, say_q("any place"), &book::Query::place, &Shelf::places);
  connect(words_, &SlotField::committed, this, [this](const QString& t) {
    query_.words = meant(t, "any words") ? "" : t.trimmed().toStdString();
    ask();
  });
  wire_words(month_, month_words(), [this](int month) {
    query_.month = month;
    ask();
  });
  wire_words(verdict_, verdict_words(), [this](int v) {
    using book::Verdict;
    static constexpr Verdict verdicts[] = {Verdict::None, Verdict::Well, Verdict::Fairly, Verdict::Badly,
                                           Verdict::None};
    query_.verdict = v == 0 ? std::nullopt : std::optional(verdicts[v]);
    ask();
  });
}

QWidget* BookStage::make_chosen_panel() {
  auto* panel = new QWidget(this);
  auto* rows = new QVBoxLayout(panel);
  rows->setContentsMargins(0, 2, 0, 0);
  rows->setSpacing(4);
  said_ = new Sentence(panel, 11.5);
  went_ = slot(said_, say_q("It went"), say_q("how it went"));
  change_ = slot(said_, say_q(". Next time:"), say_q("what to do differently"));
  note_ = slot(said_, say_q(". To remember:"), say_q("note"));
  change_->take_words();
  note_->take_words();
  title_ = new QLabel(panel);
  title_->setFont(word_font(11.5, QFont::Bold));
  title_->setObjectName("chosen take");
  auto* head = new QHBoxLayout;
  head->addWidget(title_, 1);
  rows->addLayout(head);
  rows->addWidget(said_);
  again_ = new LinkLabel(panel);
  again_->setFont(word_font(9.5));
  again_->setObjectName("stands there again");
  rows->addWidget(again_);
  auto* line = new QHBoxLayout;
  open_ = new PressButton(say_q("Open it (Enter)"), true, panel);
  begin_ = new PressButton(say_q("New take from it (R)"), false, panel);
  lay_ = new PressButton(say_q("All details (B)"), false, panel);
  more_ = new PressButton(say_q("Add…"), false, panel);
  write_ = new PressButton(say_q("Export… (E)"), false, panel);
  open_->setObjectName("open it");
  begin_->setObjectName("begin again");
  lay_->setObjectName("lay beside");
  more_->setObjectName("put in");
  write_->setObjectName("write out");
  for (PressButton* b : {open_, begin_, lay_}) line->addWidget(b);
  line->addStretch(1);
  for (PressButton* b : {more_, write_}) head->addWidget(b);  // above: large type needs the row
  rows->addLayout(line);
  wire_words(went_, went_choices(), [this](int v) {
    put_in_words([v](book::Words& w) { w.verdict = static_cast<book::Verdict>(v); });
  });
  connect(change_, &SlotField::committed, this, [this](const QString& t) {
    put_in_words([&](book::Words& w) { w.change = meant(t, "nothing") ? "" : t.trimmed().toStdString(); });
  });
  connect(note_, &SlotField::committed, this, [this](const QString& t) {
    put_in_words([&](book::Words& w) { w.note = meant(t, "nothing") ? "" : t.trimmed().toStdString(); });
  });
  connect(open_, &QPushButton::clicked, this, [this] { open(list_->chosen()); });
  connect(begin_, &QPushButton::clicked, this, [this] { begin_again(now(), false); });
  connect(lay_, &QPushButton::clicked, this, [this] { show_beside(pages_->currentIndex() == 0); });
  connect(more_, &QPushButton::clicked, this, &BookStage::show_ways_in);
  connect(write_, &QPushButton::clicked, this, &BookStage::write_out);
  connect(again_, &QLabel::linkActivated, this, [this](const QString& link) {
    const auto n = static_cast<size_t>(link.toInt());
    if (n < again_found_.size()) begin_again(again_found_[n].at, true);
  });
  return panel;
}

void BookStage::entered() {
  ask();  // files may have come or gone
  list_->setFocus();
}

void BookStage::ask() {
  session_.book.ask(query_);
}

std::optional<EmptyNote> BookStage::empty() const {
  if (session_.book.shelf().takes > 0) return {};
  using Way = EmptyNote::Way;
  return EmptyNote{
      say_q("The book is still empty"),
      say_q("Every take files itself here once it is saved or has frames: what was planned, what came of it, "
            "what the kit really did."),
      {{Way::OpenFolder, say_q("Open frames…"), say_q("A card or a folder of a take that is shot already")},
       {Way::AskForClip, say_q("Plan a take"), say_q("With a wish for a clip")},
       {Way::TryDemo, say_q("Try the demo"), say_q("The harbour goes from day into night")}}};
}

void BookStage::refresh() {
  const Shelf& shelf = session_.book.shelf();
  using Kind = SlotField::Kind;
  subject_->set(query_.subject.empty() ? say_q("anything") : to_q(query_.subject), Kind::Plain);
  place_->set(query_.place.empty() ? say_q("any place") : to_q(query_.place), Kind::Plain);
  month_->set(month_words()[query_.month], Kind::Plain);
  const int v = !query_.verdict                          ? 0
                : *query_.verdict == book::Verdict::None ? 4
                                                         : static_cast<int>(*query_.verdict);
  verdict_->set(verdict_words()[v], Kind::Plain);
  words_->set(query_.words.empty() ? say_q("any words") : to_q(query_.words), Kind::Plain,
              to_q(query_.words));
  constexpr qsizetype kMenu = 30;
  subject_->set_choices(shelf.subjects.size() <= kMenu ? QStringList{say_q("anything")} + shelf.subjects
                                                       : QStringList());
  place_->set_choices(shelf.places.size() <= kMenu ? QStringList{say_q("any place")} + shelf.places
                                                   : QStringList());
  count_->set(to_q(counted(static_cast<long long>(shelf.listing.rows.size()), "{} take", "{} takes")),
              Kind::Answer);
  frames_->set(to_q(counted(shelf.listing.frames, "{} frame", "{} frames")), Kind::Answer);
  film_->set(to_q(format_length(shelf.listing.film_s, 0)), Kind::Answer);
  sentence_->reflow();
  list_->refresh();
  show_chosen();
}

void BookStage::show_chosen() {
  const book::Row* row = session_.book.row(list_->chosen());
  for (PressButton* b : {open_, begin_, lay_}) b->setEnabled(row != nullptr);
  title_->setVisible(row != nullptr);
  said_->setVisible(row != nullptr);
  show_again({});
  lay_->setText(pages_->currentIndex() == 1 ? say_q("Back to the list (B)")
                : list_->second() != 0      ? say_q("Side by side (B)")
                                            : say_q("All details (B)"));
  if (pages_->currentIndex() == 1) show_beside(true);
  if (!row) return;
  const book::Entry* entry = session_.book.entry(row->id);
  const bool planned = entry && entry->how == book::How::Take;
  open_->setEnabled(entry && entry->how != book::How::Hand);
  begin_->setEnabled(planned);
  title_->setText(title_->fontMetrics().elidedText(to_q(row->name), Qt::ElideRight, 600));
  using Kind = SlotField::Kind;
  went_->set(went_choices()[static_cast<int>(row->words.verdict)], Kind::Plain);
  change_->set(row->words.change.empty() ? say_q("nothing") : to_q(row->words.change), Kind::Plain,
               to_q(row->words.change));
  note_->set(row->words.note.empty() ? say_q("nothing") : to_q(row->words.note), Kind::Plain,
             to_q(row->words.note));
  said_->reflow();
  if (!planned || !entry->knows_start() || !entry->located()) {
    if (entry && !planned)
      show_again(say_q("It was not planned here: it can be looked at, not begun again."));
    return;
  }
  if (asked_again_for_ != row->id) {
    asked_again_for_ = row->id;
    again_found_.clear();
    try {
      const take::Take take = take::load_take(entry->file);
      session_.book.look_again(row->id, forecast::body_to_keep(take), entry->start, entry->place, now());
    } catch (const Error&) {
      // Its file is gone; the list says so.
    }
  }
  QString words;
  for (size_t n = 0; n < std::min<size_t>(again_found_.size(), 5); ++n) {
    const Instant at = again_found_[n].at;
    const Day day = day_of(at, entry->place.zone);
    words += say_q("%1<a href=\"%2\" style=\"color:%3\">%4 %5, %6</a>")
                 .arg(n == 0 ? "" : " · ")
                 .arg(n)
                 .arg(colours().field.name(), to_q(day_words(day)))
                 .arg(static_cast<int>(day.year()))
                 .arg(to_q(format_clock(at, entry->place.zone)));
  }
  if (!words.isEmpty()) show_again(say_q("The sky stands there again: ") + words);
}

void BookStage::show_again(const QString& words) {
  again_->setText(words);
  again_->setVisible(!words.isEmpty());  // a line without words is no place for Tab to stop at
}

void BookStage::put_in_words(const std::function<void(book::Words&)>& change) {
  const book::Row* row = session_.book.row(list_->chosen());
  if (!row) return;
  book::Words words = row->words;
  words.asked = true;
  change(words);
  session_.book.say(row->id, words);
}

void BookStage::open(long long id) {
  const book::Row* row = session_.book.row(id);
  if (!row || row->file.empty()) return;
  std::error_code ec;
  if (!std::filesystem::exists(row->file, ec))
    return emit session_.trouble(
        QString(say_q("%1 is not there. If it was moved, open it from its new place: the book follows."))
            .arg(to_q(row->file)));
  emit open_asked(to_q(row->file));
}

void BookStage::begin_again(Instant at, bool exactly) {
  const book::Row* row = session_.book.row(list_->chosen());
  if (!row || !begin_->isEnabled()) return;
  try {
    session_.begin_again(row->file, at, exactly);
    emit began();
  } catch (const Error& e) {
    emit session_.trouble(QString::fromUtf8(e.what()));
  }
}

void BookStage::show_beside(bool beside) {
  if (beside) {
    std::vector<book::Entry> takes;
    for (const long long id : {list_->chosen(), list_->second()})
      if (id != 0)
        if (const book::Entry* e = session_.book.entry(id)) takes.push_back(*e);
    if (takes.empty()) return;
    beside_->show_takes(takes);
  }
  const bool was = pages_->currentIndex() == 1;
  pages_->setCurrentIndex(beside ? 1 : 0);
  if (beside != was) {
    show_chosen();
    if (!beside) list_->setFocus();
  }
}

void BookStage::say_keys() {
  keys_.add(Qt::Key_Return, say_q("Open the take"), [this] { open(list_->chosen()); });
  keys_.add(Qt::Key_Enter, {}, [this] { open(list_->chosen()); });
  keys_.add(Qt::Key_R, say_q("New take from it"), [this] { begin_again(now(), false); });
  keys_.add(Qt::Key_B, say_q("All details, or two side by side"),
            [this] { show_beside(pages_->currentIndex() == 0); });
  keys_.add(Qt::Key_E, say_q("Export what is listed"), [this] { write_out(); });
  keys_.add(Qt::Key_Delete, say_q("Take it out of the book…"), [this] { take_out(); });
  keys_.add(Qt::Key_Slash, say_q("Search for words"), [this] { words_->setFocus(); });
  keys_.add(Qt::Key_Escape, say_q("Back to the list"), [this] { show_beside(false); });
}

bool BookStage::key(QKeyEvent* event) {
  return !(event->key() == Qt::Key_Escape && pages_->currentIndex() == 0) && Stage::key(event);
}

void BookStage::show_ways_in() {
  QMenu menu(this);
  menu.setFont(word_font(10.5));
  menu.addAction(say_q("A folder of frames that was shot without a plan…"), this, [this] {
    const QString folder = QFileDialog::getExistingDirectory(this, say_q("The folder of frames"));
    if (!folder.isEmpty()) session_.book.add(std::filesystem::path(folder.toStdString()));
  });
  menu.addAction(say_q("Takes, or a table…"), this, [this] {
    for (const QString& file : QFileDialog::getOpenFileNames(
             this, say_q("Takes or tables"), {}, say_q("Takes and tables (*.askcount *.csv *.json)")))
      session_.book.add(std::filesystem::path(file.toStdString()));
  });
  menu.addAction(say_q("Enter one by hand…"), this, [this] { ask_by_hand(); });
  menu.addSeparator();
  menu.addAction(say_q("Take it out of the book…"), this, [this] { take_out(); })
      ->setEnabled(session_.book.row(list_->chosen()) != nullptr);
  menu.exec(more_->mapToGlobal(QPoint(0, more_->height())));
}

void BookStage::ask_by_hand() {
  HandDialog dialog(session_, this);
  if (dialog.exec() == QDialog::Accepted) session_.book.add(dialog.entry());
}

void BookStage::take_out() {
  const book::Row* row = session_.book.row(list_->chosen());
  if (!row) return;
  const long long id = row->id;
  QMessageBox ask(
      QMessageBox::Question, say_q("Take out of the book"),
      say_q("Take \"{}\" out of the book, with what was said of it and what it taught of the kit?",
            row->name),
      QMessageBox::Cancel, this);
  ask.setInformativeText(row->file.empty() ? say_q("It was entered by hand: there is nothing else to show.")
                                           : say_q("Its files stay. Opened again, it comes back."));
  QPushButton* out = ask.addButton(say_q("Take it out"), QMessageBox::DestructiveRole);
  ask.setDefaultButton(QMessageBox::Cancel);
  ask.exec();
  if (ask.clickedButton() == out) session_.book.take_out(id);
}

void BookStage::write_out() {
  const QString file =
      QFileDialog::getSaveFileName(this, say_q("Export the list as"), "book.html",
                                   say_q("Page (*.html);;Table (*.csv);;Sheet to print (*.pdf)"));
  if (!file.isEmpty()) session_.book.write(file.toStdString());
}

Findings BookStage::findings() const {
  const Shelf& shelf = session_.book.shelf();
  const take::Take& take = session_.document.take();
  advice::Known known;
  known.kit = book::judge(session_.book.facts(take.kit), take.kit, take.light.turning_s);
  known.mistakes = book::judge_mistakes(shelf.mistakes, take.again);
  known.practice = book::judge_practice(shelf.scores);
  return advice::findings_on(advice::Stage::Book, take, known);
}

std::map<size_t, QString> BookStage::headings(const Findings& list) const {
  std::map<size_t, QString> headings;
  for (size_t n = 0; n < list.size(); ++n) {
    const std::string& code = list[n].code;
    const QString heading = code.starts_with("mistake_") ? say_q("What went wrong most")
                            : code.starts_with("kit_")   ? ""
                                                         : say_q("Practice");
    const bool first = n == 0 || headings.empty() || headings.rbegin()->second != heading;
    if (!heading.isEmpty() && first) headings[n] = heading;
  }
  return headings;
}

QString BookStage::findings_title() const {
  return say_q("What your kit really does");
}

QString BookStage::foot() const {
  return say_q(
      "Enter opens · R begins a new one · Shift and arrows, then B: two side by side · / searches · E "
      "exports");
}

}  // namespace askcount::app

#include "moc_book_stage.cpp"
