// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/window.h"

#include <QAction>
#include <QApplication>
#include <QDropEvent>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QKeyEvent>
#include <QMenu>
#include <QMimeData>
#include <QPainter>
#include <QScreen>
#include <QScrollArea>
#include <QVBoxLayout>

#include "app/session/contrast.h"
#include "app/session/keeping.h"
#include "app/session/languages.h"
#include "app/session/settings.h"
#include "app/shell/keys_page.h"
#include "app/shell/kit_editor.h"
#include "app/shell/screen_reader.h"
#include "app/stages/ask/ask_stage.h"
#include "app/stages/book/book_stage.h"
#include "app/stages/cut/cut_stage.h"
#include "app/stages/gather/gather_stage.h"
#include "app/stages/level/level_stage.h"
#include "app/stages/light/light_stage.h"
#include "app/stages/set/set_stage.h"
#include "app/stages/shoot/shoot_stage.h"
#include "app/style/text.h"
#include "app/widgets/picture_place.h"
#include "base/error.h"
#include "take/fix.h"

namespace askcount::app {
namespace {

constexpr const char* kSpan = "span";  // the setting: "full" or "slim"
constexpr int kStageHeight = 600;      // what a stage was drawn for, in pixels

/// The line at the foot.
class Foot : public QWidget {
 public:
  using QWidget::QWidget;

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    p.fillRect(rect(), colours().bar);
    p.setPen(colours().line);
    p.drawLine(0, 0, width(), 0);
  }
};

}  // namespace

Window::Window() {
  tell_screen_readers();
  setWindowTitle(say_q("Ask Count"));
  setMinimumSize(1100, 700);
  // As large as it was drawn for, or as the screen is.
  const QSize room = screen()->availableSize() - QSize(0, 30);  // a title bar
  resize(std::clamp(room.width(), 1100, 1280), std::clamp(room.height(), 700, 800));
  auto* middle = new QWidget(this);
  auto* down = new QVBoxLayout(middle);
  down->setContentsMargins(0, 0, 0, 0);
  down->setSpacing(0);
  bar_ = new StageBar(middle);
  span_ = new SpanPlace(session_, middle);
  connect(span_->span(), &Span::names_pressed, this, &Window::toggle_span);
  down->addWidget(bar_);
  down->addWidget(span_);
  auto* across = new QHBoxLayout;
  across->setSpacing(0);
  across->addWidget(make_stack(middle), 1);
  findings_ = new FindingsColumn(middle);
  findings_->hide();
  constexpr int kLetGo_ms = 150;
  let_go_.setSingleShot(true);
  let_go_.setInterval(kLetGo_ms);
  connect(&let_go_, &QTimer::timeout, this, &Window::place_findings);
  across->addWidget(findings_);
  down->addLayout(across, 1);
  asked_ = new AskedBar(session_.book, middle);
  down->addWidget(asked_);
  make_foot(middle);
  down->addWidget(foot_);
  setCentralWidget(middle);
  big_ = std::make_unique<BigPicture>(session_, this);
  add_stages();
  make_actions();
  say_keys();
  setAcceptDrops(true);
  connect(empty_, &EmptyPage::pressed, this, &Window::take_way);
  connect(empty_, &EmptyPage::said, this,
          [this](const QString& words) { findChild<AskStage*>()->say_subject(words); });
  connect(bar_, &StageBar::chosen, this, &Window::go_to);
  connect(bar_, &StageBar::menu_asked, this, &Window::show_menu);
  connect(findings_, &FindingsColumn::fix, this, &Window::fix);
  follow_session();
  go_to(0);
}

QWidget* Window::make_stack(QWidget* middle) {
  // In large type a stage is taller than the window and is scrolled.
  auto* area = new QScrollArea(middle);
  area->setFrameShape(QFrame::NoFrame);
  area->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  area->setWidgetResizable(true);
  area->setFocusPolicy(Qt::NoFocus);
  stack_ = new QStackedWidget(area);
  // As wide as there is room, whatever its stages would like; as tall too, where type is as it was drawn for.
  stack_->setMinimumSize(1, type_scale() > 1.1 ? static_cast<int>(kStageHeight * type_scale()) : 1);
  area->setWidget(stack_);
  // What has the focus is seen, from wherever it came there.
  connect(qApp, &QApplication::focusChanged, area, [area, this](QWidget*, QWidget* now) {
    if (now && stack_->isAncestorOf(now)) area->ensureWidgetVisible(now, 0, 20);
  });
  empty_ = new EmptyPage(stack_);
  return area;
}

void Window::make_foot(QWidget* middle) {
  foot_ = new Foot(middle);
  foot_->setFixedHeight(26);
  auto* foot_row = new QHBoxLayout(foot_);
  foot_row->setContentsMargins(18, 0, 18, 0);
  foot_row->setSpacing(24);
  tally_ = new FindingsTally(foot_);
  connect(tally_, &QAbstractButton::clicked, this, &Window::toggle_findings);
  foot_row->addWidget(tally_);
  foot_left_ = new QLabel(foot_);
  foot_right_ = new QLabel(foot_);
  foot_left_->setObjectName("foot");
  foot_right_->setObjectName("saved");
  for (QLabel* label : {foot_left_, foot_right_}) label->setFont(word_font(9));
  foot_left_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  foot_left_->setMinimumWidth(120);
  foot_row->addWidget(foot_left_, 1);
  foot_row->addWidget(foot_right_);
}

void Window::add_stages() {
  // The numbers are the places in the order of work.
  add_stage(1, to_say("Ask"), new AskStage(session_, stack_), Lighting::Day);
  add_stage(2, to_say("Light"), new LightStage(session_, stack_), Lighting::Day);
  add_stage(3, to_say("Set"), new SetStage(session_, stack_), Lighting::Day);
  add_stage(4, to_say("Shoot"), new ShootStage(session_, stack_), Lighting::Day);
  add_stage(5, to_say("Gather"), new GatherStage(session_, stack_), Lighting::Day);
  add_stage(6, to_say("Level"), new LevelStage(session_, stack_), Lighting::Studio);
  add_stage(7, to_say("Cut"), new CutStage(session_, stack_), Lighting::Studio);
  auto* book = new BookStage(session_, stack_);
  add_stage(8, to_say("Book"), book, Lighting::Day);
  connect(book, &BookStage::open_asked, this, [this](const QString& file) {
    const std::filesystem::path what = file.toStdString();
    open_any(what);
    if (what.extension() == ".askcount") go_to_stage("Ask");
  });
  connect(book, &BookStage::began, this, [this] {
    go_to_stage("Light");
    tell(say_q("A new take from it: place, framing and plan are the old one's, the light is today's."),
         false);
  });
}

void Window::follow_session() {
  connect(&session_.document, &Document::changed, this, &Window::refresh);
  connect(&session_.document, &Document::saved, this, &Window::refresh);
  connect(&session_.frames, &Frames::changed, this, &Window::refresh);
  connect(&session_.looking, &Looking::changed, this, &Window::refresh);
  connect(&session_.levelling, &Levelling::changed, this, &Window::refresh);
  connect(&session_.films, &Films::changed, this, &Window::refresh);
  connect(&session_.run, &Run::changed, this, &Window::refresh);
  connect(&session_.book, &BookKeeper::changed, this, [this] {
    if (stage_name(current_stage()) == "Book") refresh();
  });
  connect(&session_, &Session::trouble, this, [this](const QString& text) { tell(text, true); });
  connect(&session_, &Session::told, this, [this](const QString& text) { tell(text, false); });
  connect(&session_.job, &Job::started, this, [this] { tell({}, false); });
  connect(&session_.job, &Job::progressed, this, &Window::show_foot);
  connect(&session_.job, &Job::ended, this, &Window::refresh);
}

Window::~Window() {
  hide();
  big_->close_picture();  // the picture is its stage's
}

void Window::add_stage(int key, const char* name, Stage* stage, Lighting lighting) {
  bar_->add_stage(key, say_q(name));
  stages_.push_back(stage);
  names_.push_back(name);
  lights_.push_back(lighting);
  columns_.emplace_back();
  stack_->addWidget(stage);
  connect(stage, &Stage::foot_changed, this, &Window::show_foot);
  connect(stage, &Stage::findings_changed, this, &Window::refresh);
  if (PicturePlace* picture = stage->picture()) {
    connect(picture, &PicturePlace::whole_screen_asked, this, &Window::toggle_picture);
    connect(picture, &PicturePlace::back_asked, big_.get(), &BigPicture::close_picture);
  }
  auto* action = new QAction(say_q(name), this);
  action->setShortcut(QKeySequence(QString("Alt+%1").arg(key)));
  const int index = stage_count() - 1;
  connect(action, &QAction::triggered, this, [this, index] { go_to(index); });
  addAction(action);
}

void Window::make_actions() {
  const auto add = [this](const QString& name, const QKeySequence& keys, auto slot) {
    auto* action = new QAction(name, this);
    action->setShortcut(keys);
    connect(action, &QAction::triggered, this, slot);
    addAction(action);
  };
  add(say_q("Undo"), QKeySequence::Undo, [this] { session_.document.undo(); });
  add(say_q("Redo"), QKeySequence("Ctrl+Shift+Z"), [this] { session_.document.redo(); });
  add(say_q("New"), QKeySequence::New, [this] { session_.begin(); });
  add(say_q("The kit"), QKeySequence("Ctrl+K"), [this] { show_kit(); });
  add(say_q("All keys, and why a number is what it is"), QKeySequence("F1"), [this] { keys_page()->exec(); });
  add(say_q("Menu"), QKeySequence("F10"),
      [this] { show_menu(bar_->mapToGlobal(QPoint(18, bar_->height()))); });
  add(say_q("Open"), QKeySequence::Open, [this] { ask_open(); });
  add(say_q("Open frames"), QKeySequence("Ctrl+Shift+O"), [this] { ask_folder(); });
  add(say_q("Save"), QKeySequence::Save, [this] {
    if (session_.document.file().empty()) return ask_save_as();
    session_.document.save();
  });
  add(say_q("Save as"), QKeySequence("Ctrl+Shift+S"), [this] { ask_save_as(); });
  add(say_q("Day or studio light"), QKeySequence("Ctrl+L"), [this] { change_light(); });
  add(say_q("Findings, open or shut"), QKeySequence("Ctrl+F"), [this] { toggle_findings(); });
  add(say_q("The picture on the whole screen, or back"), QKeySequence("F11"), [this] { toggle_picture(); });
  add(say_q("The two clocks, slim or full"), QKeySequence("Ctrl+T"), [this] { toggle_span(); });
  add(say_q("Close"), QKeySequence("Ctrl+Q"), [this] { close(); });
}

int Window::current_stage() const {
  return stack_->currentIndex();
}

bool Window::judges_pictures() const {
  const QString name = stage_name(current_stage());
  return name == "Gather" || name == "Level" || name == "Cut";
}

void Window::go_to(int index) {
  if (index != current_stage() && findings_->isVisible()) findings_->mark_read();
  just_entered_ = true;
  stack_->setCurrentIndex(index);
  bar_->set_current(index);
  said_.clear();
  span_->span()->show_shot(judges_pictures());
  span_->span()->set_slim(judges_pictures() && chosen_word(kSpan) != "full");
  apply_light();
  stages_[static_cast<size_t>(index)]->entered();
  if (big_->is_open()) big_->show_stage(stages_[static_cast<size_t>(index)]);
  refresh();
  findings_->to_top();
}

void Window::go_to_stage(const QString& name) {
  for (int i = 0; i < stage_count(); ++i)
    if (stage_name(i) == name) go_to(i);
}

void Window::change_light() {
  Lighting& lighting = lights_[static_cast<size_t>(current_stage())];
  lighting = lighting == Lighting::Day ? Lighting::Studio : Lighting::Day;
  lamp_ = false;
  apply_light();
}

void Window::toggle_lamp() {
  lamp_ = !lamp_;
  apply_light();
}

void Window::toggle_findings() {
  columns_[static_cast<size_t>(current_stage())] = !findings_->isVisible();
  place_findings();
}

void Window::toggle_picture() {
  Stage* now = stages_[static_cast<size_t>(current_stage())];
  if (big_->is_open())
    big_->whole_screen_or_back();
  else if (now->isEnabled())
    big_->open(now, BigPicture::As::WholeScreen);
}

void Window::picture_apart() {
  Stage* now = stages_[static_cast<size_t>(current_stage())];
  if (!big_->is_open() && now->isEnabled()) big_->open(now, BigPicture::As::Window);
}

void Window::toggle_span() {
  if (!judges_pictures()) return;
  try {
    keep_setting(kSpan, span_->span()->slim() ? "full" : "slim");
  } catch (const Error& e) {
    tell(QString::fromUtf8(e.what()), true);
  }
  span_->span()->set_slim(!span_->span()->slim());
}

void Window::apply_light() {
  set_lighting(lamp_ ? Lighting::Lamp : lights_[static_cast<size_t>(current_stage())]);
  refresh();
  for (QWidget* w : findChildren<QWidget*>()) w->update();
  for (QWidget* w : big_->findChildren<QWidget*>()) w->update();
}

void Window::refresh() {
  bar_->set_take(QString::fromStdString(session_.document.take().name));
  std::vector<bool> done;
  for (const Stage* stage : stages_) done.push_back(stage->done());
  bar_->set_done(done);
  const Stage& now = *stages_[static_cast<size_t>(current_stage())];
  const auto nothing = now.empty();
  empty_->set_note(nothing);
  stack_->currentWidget()->setEnabled(!nothing);  // Tab does not go behind what covers it
  const Findings list = nothing ? Findings{} : now.findings();
  tally_->show_findings(list);
  if (nothing)
    findings_->show_findings({});
  else
    findings_->show_findings({now.findings_title(), list, now.headings(list), now.folds_fine(), now.facts()});
  place_findings();
  big_->refresh();
  show_foot();
}

void Window::place_findings() {
  const std::optional<bool>& chosen = columns_[static_cast<size_t>(current_stage())];
  const bool open = tally_->isHidden()  ? false
                    : chosen            ? *chosen
                    : judges_pictures() ? findings_->has_stop()
                                        : findings_->wants_room();
  const bool stays = !chosen && !just_entered_ && !tally_->isHidden();
  if (open == !findings_->isHidden() || (!open && stays)) {
    just_entered_ = false;
    return;
  }
  if (!just_entered_ && !chosen && QGuiApplication::mouseButtons() != Qt::NoButton) return let_go_.start();
  just_entered_ = false;
  findings_->setVisible(open);
}

void Window::show_foot() {
  const Stage& now = *stages_[static_cast<size_t>(current_stage())];
  QString left = said_.isEmpty() ? now.foot() : said_;
  if (said_.isEmpty() && session_.job.running())
    left = say_q("%1: %2 of %3%4%5")
               .arg(session_.job.doing())
               .arg(session_.job.done_count())
               .arg(session_.job.total())
               .arg(session_.job.unit())
               .arg(session_.job.pace().isEmpty() ? "" : ", " + session_.job.pace());
  QPalette ink = foot_left_->palette();
  ink.setColor(QPalette::WindowText, said_bad_ && !said_.isEmpty() ? colours().stop : colours().muted);
  foot_left_->setPalette(ink);
  foot_left_->setText(left);
  foot_left_->setToolTip(said_);
  ink.setColor(QPalette::WindowText, colours().muted);
  foot_right_->setPalette(ink);
  foot_right_->setText(session_.document.saved_words());
}

void Window::tell(const QString& text, bool bad) {
  said_ = text;
  said_bad_ = bad;
  refresh();
}

bool Window::open(const std::filesystem::path& file) {
  try {
    session_.open(file);
    std::error_code ec;
    if (!session_.run.active() && !session_.document.card().empty() &&
        std::filesystem::exists(session_.document.card(), ec))
      session_.frames.gather();
    if (!session_.document.look_only()) tell({}, false);
    return true;
  } catch (const std::exception& e) {
    tell(QString::fromUtf8(e.what()), true);
    return false;
  }
}

void Window::take_up_last() {
  if (session_.recover())
    return tell(say_q("This take had no file when the last session ended. Ctrl+S gives it one."), false);
  if (const QStringList recent = recent_takes(); !recent.isEmpty()) open(recent.front().toStdString());
}

void Window::open_frames(const std::filesystem::path& folder) {
  session_.begin_with(folder);
  go_to_stage("Gather");
}

bool Window::open_any(const std::filesystem::path& what) {
  std::error_code ec;
  if (what.extension() == ".askcount") return open(what);
  if (!std::filesystem::exists(what, ec)) {
    tell(say_q("{} does not exist.", what.string()), true);
    return false;
  }
  open_frames(std::filesystem::is_directory(what, ec) ? what : what.parent_path());
  return true;
}

void Window::take_way(EmptyNote::Way way) {
  using Way = EmptyNote::Way;
  const auto to = [this](const QString& name) { go_to_stage(name); };
  switch (way) {
    case Way::AskForClip:
      session_.document.edit([](take::Take& t) {
        t.wish(plan::Slot::Fps, 25);
        t.wish(plan::Slot::Clip, 10);
      });
      if (auto* slot = findChild<QWidget*>(say_q("subject"))) slot->setFocus();
      break;
    case Way::OpenFolder:
      ask_folder();
      break;
    case Way::TryDemo:
      session_.begin_demo();
      to("Ask");
      tell(say_q("The demo's plan. Shoot it with the stand-in on Shoot, and go on from there."), false);
      break;
    case Way::ToAsk:
      to("Ask");
      break;
    case Way::ToShoot:
      to("Shoot");
      break;
    case Way::ToGather:
      to("Gather");
      break;
  }
}

void Window::show_kit() {
  KitEditor editor(session_, this);
  editor.exec();
}

void Window::change_language(const QString& code) {
  try {
    choose_language(code);
    tell(say_q("The window uses it from the next start."), false);
  } catch (const Error& e) {
    tell(QString::fromUtf8(e.what()), true);
  }
}

void Window::change_contrast(Contrast contrast) {
  try {
    keep_contrast(contrast);
  } catch (const Error& e) {
    return tell(QString::fromUtf8(e.what()), true);
  }
  set_high_contrast(wants_contrast());
  apply_light();
}

void Window::show_menu(QPoint below) {
  QMenu menu(this);
  menu.setFont(word_font(10.5));
  const auto entry = [&menu](const QString& name, const QString& keys, auto press) {
    menu.addAction(keys.isEmpty() ? name : name + "\t" + keys, menu.parent(), press);
  };
  entry(say_q("New take"), "Ctrl+N", [this] { session_.begin(); });
  entry(say_q("Open…"), "Ctrl+O", [this] { ask_open(); });
  entry(say_q("Open a card or a folder of frames…"), "Ctrl+Shift+O", [this] { ask_folder(); });
  entry(say_q("Try the demo"), "", [this] { take_way(EmptyNote::Way::TryDemo); });
  if (const QStringList recent = recent_takes(); !recent.isEmpty()) {
    QMenu* list = menu.addMenu(say_q("Recent takes"));
    list->setFont(menu.font());
    for (const QString& file : recent)
      list->addAction(QString::fromStdString(std::filesystem::path(file.toStdString()).stem().string()), this,
                      [this, file] { open(file.toStdString()); });
  }
  entry(say_q("Save as…"), "Ctrl+Shift+S", [this] { ask_save_as(); });
  if (!session_.document.file().empty())
    entry(say_q("Pack it with all its files…"), "", [this] { ask_pack(); });
  menu.addSeparator();
  if (session_.document.can_undo()) entry(say_q("Undo"), "Ctrl+Z", [this] { session_.document.undo(); });
  if (session_.document.can_redo())
    entry(say_q("Redo"), "Ctrl+Shift+Z", [this] { session_.document.redo(); });
  entry(say_q("Name it…"), "", [this] {
    bool given = false;
    const QString name = QInputDialog::getText(this, say_q("Name the take"), say_q("Name"), QLineEdit::Normal,
                                               QString::fromStdString(session_.document.take().name), &given);
    if (given && !name.trimmed().isEmpty())
      session_.document.edit([&](take::Take& t) { t.name = name.trimmed().toStdString(); });
  });
  entry(say_q("The kit…"), "Ctrl+K", [this] { show_kit(); });
  menu.addSeparator();
  if (stages_[static_cast<size_t>(current_stage())]->picture()) {
    entry(say_q("Picture on the whole screen"), "F11", [this] { toggle_picture(); });
    entry(say_q("Picture in a window of its own"), "", [this] { picture_apart(); });
  }
  entry(say_q("Findings"), "Ctrl+F", [this] { toggle_findings(); });
  if (judges_pictures()) entry(say_q("The two clocks, slim or full"), "Ctrl+T", [this] { toggle_span(); });
  entry(say_q("Day or studio light"), "Ctrl+L", [this] { change_light(); });
  entry(say_q("Lamp light on or off"), "L", [this] { toggle_lamp(); });
  QMenu* contrasts = menu.addMenu(say_q("Contrast"));
  contrasts->setFont(menu.font());
  const auto contrast = [&](const QString& name, Contrast which) {
    QAction* action = contrasts->addAction(name, this, [this, which] { change_contrast(which); });
    action->setCheckable(true);
    action->setChecked(chosen_contrast() == which);
  };
  contrast(say_q("Same as the desktop"), Contrast::AsDesktop);
  contrast(say_q("Normal"), Contrast::Normal);
  contrast(say_q("High"), Contrast::High);
  QMenu* tongues = menu.addMenu(say_q("Language"));
  tongues->setFont(menu.font());
  const auto tongue = [&](const QString& name, const QString& code) {
    QAction* action = tongues->addAction(name, this, [this, code] { change_language(code); });
    action->setCheckable(true);
    action->setChecked(chosen_language() == code);
  };
  tongue(say_q("Same as the desktop"), {});
  for (const QString& code : languages()) tongue(QLocale(code).nativeLanguageName(), code);
  entry(say_q("All keys…"), "F1", [this] { keys_page()->exec(); });
  entry(say_q("Close"), "Ctrl+Q", [this] { close(); });
  menu.exec(below);
}

void Window::ask_open() {
  const QString file =
      QFileDialog::getOpenFileName(this, say_q("Open a take"), {}, say_q("Takes (*.askcount)"));
  if (!file.isEmpty()) open(file.toStdString());
}

void Window::ask_folder() {
  const QString folder = QFileDialog::getExistingDirectory(this, say_q("A card, or a folder of frames"));
  if (!folder.isEmpty()) open_frames(folder.toStdString());
}

void Window::dragEnterEvent(QDragEnterEvent* event) {
  const QList<QUrl> urls = event->mimeData()->urls();
  if (!urls.isEmpty() && urls.front().isLocalFile()) event->acceptProposedAction();
}

void Window::dropEvent(QDropEvent* event) {
  const QList<QUrl> urls = event->mimeData()->urls();
  if (urls.isEmpty() || !urls.front().isLocalFile()) return;
  event->acceptProposedAction();
  open_any(urls.front().toLocalFile().toStdString());
}

void Window::ask_save_as() {
  QString file =
      QFileDialog::getSaveFileName(this, say_q("Save the take as"), {}, say_q("Takes (*.askcount)"));
  if (file.isEmpty()) return;
  if (!file.endsWith(".askcount")) file += ".askcount";
  session_.document.save(file.toStdString());
}

void Window::ask_pack() {
  const QString to = QFileDialog::getSaveFileName(this, say_q("Pack the take as"),
                                                  to_q(session_.document.take().name) + ".tar",
                                                  say_q("Archives (*.tar *.zip);;A new folder (*)"));
  if (!to.isEmpty()) session_.pack(to.toStdString());
}

void Window::fix(const Fix& fix) {
  session_.document.edit([&](take::Take& t) { t = take::with_fix(t, fix); });
  if (std::holds_alternative<fix::UseSource>(fix)) session_.frames.gather();
}

void Window::say_keys() {
  const auto step = [this](long long by) { session_.playhead.set(session_.playhead.at() + by); };
  keys_.add(Qt::Key_Space, say_q("Play, or pause"),
            [this] { stages_[static_cast<size_t>(current_stage())]->play(); });
  keys_.add(Qt::Key_Left, say_q("To the frame before"), [step] { step(-1); });
  keys_.add(Qt::Key_Right, say_q("To the next frame"), [step] { step(1); });
  keys_.add(
      Qt::Key_Left, say_q("Ten frames back"), [step] { step(-10); }, Qt::ShiftModifier);
  keys_.add(
      Qt::Key_Right, say_q("Ten frames on"), [step] { step(10); }, Qt::ShiftModifier);
  keys_.add(Qt::Key_Home, say_q("To the first frame"), [this] { session_.playhead.set(0); });
  keys_.add(Qt::Key_End, say_q("To the last frame"),
            [this] { session_.playhead.set(session_.playhead.count() - 1); });
  keys_.add(Qt::Key_L, say_q("Lamp light on or off"), [this] { toggle_lamp(); });
}

std::unique_ptr<KeysPage> Window::keys_page() {
  auto made = std::make_unique<KeysPage>(this);
  KeysPage& page = *made;
  const QWidget* focus = QApplication::focusWidget();
  if (const auto* slot = qobject_cast<const SlotField*>(focus))
    page.add_why(slot->accessibleName() + ": " + slot->text(), slot->toolTip());
  else if (focus)
    page.add_why(focus->accessibleName(), focus->toolTip());
  std::vector<KeysPage::Line> lines;
  const Stage& now = *stages_[static_cast<size_t>(current_stage())];
  const auto add_of = [&page](const QWidget* w) {
    if (const auto* keyed = dynamic_cast<const Keyed*>(w))
      page.add(w->accessibleName(), KeysPage::lines_of(keyed->keys()));
  };
  // Where the focus is first, then the stage, then what else is to be seen on it.
  if (!qobject_cast<const SlotField*>(focus)) add_of(focus);
  page.add(say_q(names_[static_cast<size_t>(current_stage())].toUtf8()), KeysPage::lines_of(now.keys()));
  for (const QWidget* w : now.findChildren<QWidget*>())
    if (w != focus && w->isVisible() && !qobject_cast<const SlotField*>(w)) add_of(w);
  page.add(say_q("On every stage"), KeysPage::lines_of(keys_));
  for (const QAction* action : actions())
    lines.push_back({action->shortcut().toString(QKeySequence::NativeText), action->text()});
  page.add(say_q("The window"), lines);
  if (const auto* any = findChild<const SlotField*>())
    page.add(say_q("On a number or a word of a sentence"), KeysPage::lines_of(any->keys()));
  return made;
}

void Window::keyPressEvent(QKeyEvent* event) {
  if (stages_[static_cast<size_t>(current_stage())]->key(event) || keys_.pressed(*event)) return;
  QMainWindow::keyPressEvent(event);
}

void Window::keyReleaseEvent(QKeyEvent* event) {
  if (!stages_[static_cast<size_t>(current_stage())]->key_released(event))
    QMainWindow::keyReleaseEvent(event);
}

}  // namespace askcount::app

#include "moc_window.cpp"
