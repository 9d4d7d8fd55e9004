// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/kit_editor.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QMimeData>
#include <QRegularExpression>
#include <QVBoxLayout>

#include "app/stages/slot_wiring.h"
#include "app/stages/stage.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "app/widgets/press_button.h"
#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/number.h"

namespace askcount::app {
namespace {

struct KitList {
  const char* key;
  const char* name;
};
constexpr KitList kLists[] = {{"bodies", to_say("Bodies")},       {"lenses", to_say("Lenses")},
                              {"timers", to_say("Timers")},       {"cards", to_say("Cards")},
                              {"batteries", to_say("Batteries")}, {"filters", to_say("Filters")},
                              {"lamps", to_say("Lamps")},         {"power_banks", to_say("Power banks")}};

/// What the keys of a kit are called, without their units.
constexpr const char* kLabels[] = {to_say("sensor width"),
                                   to_say("sensor height"),
                                   to_say("pixels across"),
                                   to_say("pixels down"),
                                   to_say("raw"),
                                   to_say("compressed"),
                                   to_say("buffer"),
                                   to_say("power"),
                                   to_say("screen"),
                                   to_say("write"),
                                   to_say("writing"),
                                   to_say("card slots"),
                                   to_say("press each"),
                                   to_say("intervals"),
                                   to_say("lowest iso"),
                                   to_say("highest iso"),
                                   to_say("shortest shutter"),
                                   to_say("longest shutter"),
                                   to_say("shutter life"),
                                   to_say("shutter count"),
                                   to_say("next file number"),
                                   to_say("movie"),
                                   to_say("movie by time"),
                                   to_say("video"),
                                   to_say("video pixels across"),
                                   to_say("name"),
                                   to_say("focal"),
                                   to_say("widest f"),
                                   to_say("smallest f"),
                                   to_say("counts"),
                                   to_say("smallest step"),
                                   to_say("longest"),
                                   to_say("max count"),
                                   to_say("endless"),
                                   to_say("holds"),
                                   to_say("starts by clock"),
                                   to_say("shots each time"),
                                   to_say("lock"),
                                   to_say("capacity"),
                                   to_say("rated shots"),
                                   to_say("powered"),
                                   to_say("rated at"),
                                   to_say("watt"),
                                   to_say("adapter loss"),
                                   to_say("switches off below"),
                                   to_say("has button"),
                                   to_say("stops"),
                                   to_say("polariser"),
                                   to_say("hours"),
                                   to_say("flashes"),
                                   to_say("guide m"),
                                   to_say("heater")};

/// The words for a key without its unit.
QString words_of_key(QString key) {
  key.replace('_', ' ');
  for (const char* label : kLabels)
    if (key == label) return say_q(label);
  return key;
}

/// "sensor_width_mm" is "sensor width, mm".
QString label_of(QString key) {
  for (const char* unit : {"mbit_s", "mb_s", "mm", "mb", "gb", "fps", "hours", "stops", "um", "s", "w", "c"})
    if (key.endsWith(QString("_") + unit) && key.length() > static_cast<int>(strlen(unit)) + 1) {
      QString shown = unit;
      shown.replace(QRegularExpression("^w$"), "W").replace(QRegularExpression("^c$"), "°C");
      shown.replace("mb_s", "MB/s").replace("mbit_s", "Mbit/s").replace("mb", "MB").replace("gb", "GB");
      return words_of_key(key.left(key.length() - static_cast<int>(strlen(unit)) - 1)) + ", " + shown;
    }
  return words_of_key(key);
}

QString value_words(const Json& value) {
  if (value.is_string()) return to_q(value.get<std::string>());
  if (value.is_boolean()) return value.get<bool>() ? say_q("yes") : say_q("no");
  if (value.is_array()) {
    QStringList words;
    for (const Json& one : value) words << value_words(one);
    return words.join("; ");
  }
  return QString::number(value.get<double>(), 'g', 7).replace('.', to_q(language().point));
}

/// What was typed, as the kind of value that was there.
Json typed(const QString& text, const Json& before) {
  if (before.is_string()) return text.toStdString();
  if (before.is_boolean()) {
    const bool yes = meant(text, "yes");
    if (!yes && !meant(text, "no")) throw bad_input(say("Write yes or no."));
    return yes;
  }
  if (before.is_array()) {
    Json list = Json::array();
    for (const QString& one : text.split(QRegularExpression("[;\\s]+"), Qt::SkipEmptyParts))
      list.push_back(parse_number(one.toStdString(), -1e12, 1e12, say("this")));
    return list;
  }
  return parse_number(text.toStdString(), -1e12, 1e12, say("this"));
}

}  // namespace

KitEditor::KitEditor(Session& session, QWidget* parent) : QDialog(parent), session_(session) {
  setWindowTitle(say_q("The kit"));
  setObjectName("kit");
  resize(860, 560);
  auto* down = new QVBoxLayout(this);
  down->setContentsMargins(22, 18, 22, 16);
  down->addWidget(make_heading(
      say_q("What you bring. The first of each list is in use; batteries, cards and filters all come along."),
      this));
  ask_ = new KitAsk(session, this);
  down->addWidget(ask_);
  setAcceptDrops(true);
  auto* across = new QHBoxLayout;
  lists_ = new QListWidget(this);
  lists_->setObjectName("kit lists");
  for (const KitList& l : kLists) lists_->addItem(say_q(l.name));
  lists_->setFixedWidth(static_cast<int>(120 * type_scale()));
  entries_ = new QListWidget(this);
  entries_->setObjectName("kit entries");
  entries_->setFixedWidth(static_cast<int>(210 * type_scale()));
  for (QListWidget* l : {lists_, entries_}) {
    l->setFont(word_font(10.5));
    l->setFrameShape(QFrame::NoFrame);
  }
  scroll_ = new QScrollArea(this);
  scroll_->setWidgetResizable(true);
  scroll_->setFrameShape(QFrame::NoFrame);
  across->addWidget(lists_);
  across->addWidget(entries_);
  across->addWidget(scroll_, 1);
  down->addLayout(across, 1);
  said_ = new QLabel(this);
  said_->setObjectName("kit said");
  said_->setWordWrap(true);
  said_->setFont(word_font(9.5));
  down->addWidget(said_);
  auto* buttons = new QHBoxLayout;
  const auto button = [&](const QString& name, void (KitEditor::*press)()) {
    auto* b = new PressButton(name, false, this);
    b->setAutoDefault(false);
    connect(b, &QPushButton::clicked, this, press);
    buttons->addWidget(b);
  };
  button(say_q("Add another"), &KitEditor::add);
  button(say_q("Remove"), &KitEditor::remove);
  button(say_q("Use this one"), &KitEditor::use_first);
  buttons->addStretch();
  button(say_q("Import a file…"), &KitEditor::import_file);
  button(say_q("Export a file…"), &KitEditor::export_file);
  auto* done = new PressButton(say_q("Done"), true, this);
  done->setAutoDefault(false);
  connect(done, &QPushButton::clicked, this, &QDialog::accept);
  buttons->addWidget(done);
  down->addLayout(buttons);
  connect(lists_, &QListWidget::currentRowChanged, this, [this] { refresh(); });
  connect(entries_, &QListWidget::currentRowChanged, this, [this] {
    if (!filling_) show_entry();
  });
  connect(&session.document, &Document::changed, this, [this] {
    if (isVisible()) refresh();
  });
  lists_->setCurrentRow(0);
}

Json KitEditor::kit() const {
  return plan::to_json(session_.document.take().kit);
}

void KitEditor::tell(const QString& text, bool bad) {
  QPalette ink = said_->palette();
  ink.setColor(QPalette::WindowText, bad ? colours().stop : colours().ok);
  said_->setPalette(ink);
  said_->setText(text);
}

void KitEditor::change(const std::function<void(Json&)>& edit) {
  try {
    Json json = kit();
    edit(json);
    if (json["bodies"].empty()) json["bodies"] = {{{"name", say("My camera")}}};
    const plan::Kit next = plan::kit_from_json(json, say("The kit"));
    session_.document.edit([&](take::Take& t) { t.kit = next; });
    tell({}, false);
  } catch (const Error& e) {
    tell(QString::fromUtf8(e.what()), true);
    show_entry();
  }
}

void KitEditor::refresh() {
  const Json list = kit()[kLists[std::max(0, lists_->currentRow())].key];
  const int at = entries_->currentRow();
  filling_ = true;
  entries_->clear();
  for (const Json& entry : list) entries_->addItem(to_q(entry["name"].get<std::string>()));
  entries_->setCurrentRow(std::clamp(at, 0, std::max(0, entries_->count() - 1)));
  filling_ = false;
  show_entry();
}

void KitEditor::add_field(const QString& key, const Json& value, const std::vector<std::string>& path,
                          int row) {
  auto* grid = static_cast<QGridLayout*>(scroll_->widget()->layout());
  auto* label =
      new QLabel(path.size() > 1 ? say_q("printed for ") + label_of(key) : label_of(key), scroll_->widget());
  label->setFont(word_font(10));
  auto* edit = new QLineEdit(value_words(value), scroll_->widget());
  edit->setObjectName(key);
  edit->setFont(figure_font(10));
  edit->setAccessibleName(label->text());
  grid->addWidget(label, row, 0);
  grid->addWidget(edit, row, 1);
  connect(edit, &QLineEdit::editingFinished, this, [this, edit, value, path, before = edit->text()] {
    if (edit->text() == before) return;
    const QString text = edit->text();
    // The line is gone once the entry is shown anew: leave its signal first.
    QMetaObject::invokeMethod(
        this,
        [this, text, value, path] {
          change([&](Json& json) {
            Json* at = &json[kLists[lists_->currentRow()].key][static_cast<size_t>(entries_->currentRow())];
            // What is typed is no longer by the person's takes.
            if (path.front() != "name" && at->contains("by_takes")) (*at)["by_takes"] = 0;
            if (path.front() == "writing_s") (*at)["writing_takes"] = 0;
            if (at->contains("guessed")) std::erase((*at)["guessed"].get_ref<Json::array_t&>(), path.front());
            for (const std::string& step : path) at = &(*at)[step];
            *at = typed(text, value);
          });
        },
        Qt::QueuedConnection);
  });
}

void KitEditor::show_entry() {
  auto* fields = new QWidget;
  auto* grid = new QGridLayout(fields);
  grid->setHorizontalSpacing(14);
  grid->setVerticalSpacing(5);
  scroll_->setWidget(fields);
  const Json list = kit()[kLists[std::max(0, lists_->currentRow())].key];
  const int at = entries_->currentRow();
  if (at < 0 || at >= static_cast<int>(list.size())) return;
  int row = 0;
  for (const auto& [key, value] : list[static_cast<size_t>(at)].items()) {
    if (key == "guessed") continue;  // it is asked for, not edited
    if (value.is_object())
      for (const auto& [inner, v] : value.items()) add_field(to_q(inner), v, {key, inner}, row++);
    else
      add_field(to_q(key), value, {key}, row++);
  }
  grid->setRowStretch(row, 1);
}

void KitEditor::add() {
  const KitList& l = kLists[lists_->currentRow()];
  change([&](Json& json) {
    Json& list = json[l.key];
    Json entry =
        list.empty() ? Json::object() : list[static_cast<size_t>(std::max(0, entries_->currentRow()))];
    std::string name = say("New one");
    for (int n = 2; std::any_of(list.begin(), list.end(), [&](const Json& e) { return e["name"] == name; });
         ++n)
      name = say("New one {}", n);
    entry["name"] = name;
    list.push_back(entry);
  });
  entries_->setCurrentRow(entries_->count() - 1);
}

void KitEditor::remove() {
  const int at = entries_->currentRow();
  if (at < 0) return;
  change([&](Json& json) { json[kLists[lists_->currentRow()].key].erase(static_cast<size_t>(at)); });
}

void KitEditor::use_first() {
  const int at = entries_->currentRow();
  if (at < 0) return;
  change([&](Json& json) {
    Json& list = json[kLists[lists_->currentRow()].key];
    std::rotate(list.begin(), list.begin() + at, list.begin() + at + 1);
  });
  if (std::string_view(kLists[lists_->currentRow()].key) == "timers" &&
      !session_.document.take().kit.timers.empty())
    session_.document.edit([](take::Take& t) { t.timer = t.kit.timers.front().name; });
  entries_->setCurrentRow(0);
}

void KitEditor::import_file() {
  const QString file = QFileDialog::getOpenFileName(this, say_q("Import a kit"), {}, say_q("Kits (*.json)"));
  if (file.isEmpty()) return;
  try {
    const plan::Kit next = plan::load_kit(file.toStdString());
    session_.document.edit([&](take::Take& t) { t.kit = next; });
    tell(say_q("Imported. Ctrl+Z undoes it."), false);
  } catch (const Error& e) {
    tell(QString::fromUtf8(e.what()), true);
  }
}

void KitEditor::dragEnterEvent(QDragEnterEvent* event) {
  const QList<QUrl> urls = event->mimeData()->urls();
  if (!urls.isEmpty() && urls.front().isLocalFile()) event->acceptProposedAction();
}

void KitEditor::dropEvent(QDropEvent* event) {
  std::vector<std::filesystem::path> photographs;
  for (const QUrl& url : event->mimeData()->urls())
    if (url.isLocalFile()) photographs.emplace_back(url.toLocalFile().toStdString());
  if (photographs.empty()) return;
  event->acceptProposedAction();
  ask_->read(photographs);
}

void KitEditor::export_file() {
  QString file = QFileDialog::getSaveFileName(this, say_q("Save the kit as"), {}, say_q("Kits (*.json)"));
  if (file.isEmpty()) return;
  if (!file.endsWith(".json")) file += ".json";
  try {
    write_file_atomically({file.toStdString(), FileKind::Kit}, kit().dump(2) + "\n");
    tell(say_q("Written to {}.", file.toStdString()), false);
  } catch (const Error& e) {
    tell(QString::fromUtf8(e.what()), true);
  }
}

}  // namespace askcount::app

#include "moc_kit_editor.cpp"
