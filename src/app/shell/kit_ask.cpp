// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/kit_ask.h"

#include <memory>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QVBoxLayout>

#include "app/stages/slot_wiring.h"
#include "app/style/style.h"
#include "app/style/text.h"
#include "base/error.h"
#include "base/number.h"

namespace askcount::app {

KitAsk::KitAsk(Session& session, QWidget* parent) : QWidget(parent), session_(session), job_(this) {
  setObjectName("kit ask");
  auto* down = new QVBoxLayout(this);
  down->setContentsMargins(0, 2, 0, 8);
  down->setSpacing(6);
  auto* first = new QHBoxLayout;
  choose_ = new PressButton(say_q("From photographs…"), true, this);
  choose_->setAutoDefault(false);
  words_ = new QLabel(this);
  words_->setObjectName("kit told");
  words_->setWordWrap(true);
  words_->setFont(word_font(10));
  first->addWidget(choose_);
  first->addWidget(words_, 1);
  down->addLayout(first);
  auto* second = new QHBoxLayout;
  ask_ = new QLabel(this);
  ask_->setObjectName("kit question");
  ask_->setFont(word_font(12, QFont::DemiBold));
  value_ = new QLineEdit(this);
  value_->setObjectName("kit answer");
  value_->setFont(figure_font(12));
  value_->setMaximumWidth(static_cast<int>(90 * type_scale()));
  unit_ = new QLabel(this);
  put_ = new PressButton(say_q("That is it"), false, this);
  put_->setObjectName("kit put");
  later_ = new PressButton(say_q("Later"), false, this);
  for (PressButton* b : {put_, later_}) b->setAutoDefault(false);
  second->addWidget(ask_);
  second->addWidget(value_);
  second->addWidget(unit_);
  second->addWidget(put_);
  second->addWidget(later_);
  second->addStretch();
  down->addLayout(second);
  why_ = new QLabel(this);
  why_->setObjectName("kit why");
  why_->setWordWrap(true);
  why_->setFont(word_font(9.5));
  why_->setForegroundRole(QPalette::PlaceholderText);
  down->addWidget(why_);
  connect(choose_, &QPushButton::clicked, this, [this] {
    std::vector<std::filesystem::path> files;
    for (const QString& file : QFileDialog::getOpenFileNames(this, say_q("Photographs of yours")))
      files.emplace_back(file.toStdString());
    if (!files.empty()) read(files);
  });
  connect(put_, &QPushButton::clicked, this, [this] { answer(); });
  connect(value_, &QLineEdit::returnPressed, this, [this] { answer(); });
  connect(later_, &QPushButton::clicked, this, [this] {
    ++at_;
    refresh();
  });
  connect(&job_, &Job::started, this, [this] { refresh(); });
  connect(&job_, &Job::ended, this, [this](const QString& trouble, bool) {
    if (!trouble.isEmpty()) told_ = trouble;
    refresh();
  });
  refresh_when_seen(this, [this] { refresh(); }).on(session.document, &Document::changed);
  refresh();
}

void KitAsk::read(const std::vector<std::filesystem::path>& photographs) {
  const auto next = std::make_shared<take::Take>(session_.document.take());
  const auto told = std::make_shared<forecast::ToldByPhotographs>();
  const std::uint64_t of = session_.document.generation();
  job_.start({say_q("Reading photographs"),
              [next, told, photographs](const Work&) {
                *next = forecast::with_photographs(*next, photographs, told.get());
              },
              [this, next, told] {
                QStringList words;
                for (const std::string& one : told->told) words << to_q(one);
                told_ = say_q("They tell: ") + words.join(", ") + ".";
                at_ = 0;
                session_.document.edit([&](take::Take& t) { t.kit = next->kit; });
                refresh();
              },
              [this, of] { return session_.document.generation() == of; }});
}

void KitAsk::answer() {
  if (at_ >= questions_.size()) return;
  const std::string key = questions_[at_].key;
  try {
    const take::Take next = forecast::answered(session_.document.take(), key,
                                               parse_number(value_->text().toStdString(), -1e12, 1e12, key));
    session_.document.edit([&](take::Take& t) { t = next; });
    refresh();
  } catch (const Error& e) {
    why_->setText(QString::fromUtf8(e.what()));
  }
}

void KitAsk::refresh() {
  const take::Take& t = session_.document.take();
  choose_->setEnabled(!job_.running());
  words_->setText(job_.running() ? say_q("Reading photographs")
                  : told_.isEmpty()
                      ? say_q("Drop a photograph of yours here: it tells body, lens, sensor and file "
                              "sizes. Several tell more.")
                      : told_);
  questions_.clear();
  try {
    questions_ = forecast::kit_questions(t);
  } catch (const Error&) {
    // A plan that cannot be worked out asks for nothing.
  }
  if (at_ >= questions_.size()) at_ = 0;
  const bool any = !questions_.empty();
  for (QWidget* w : std::initializer_list<QWidget*>{ask_, value_, unit_, put_, why_}) w->setVisible(any);
  later_->setVisible(questions_.size() > 1);
  if (!any) return;
  const forecast::KitQuestion& q = questions_[at_];
  if (ask_->text() != to_q(q.ask)) value_->setText(to_q(format_number(q.value, q.value < 10 ? 1 : 0)));
  ask_->setText(to_q(q.ask));
  value_->setAccessibleName(to_q(q.ask));
  unit_->setText(say_q(q.unit.c_str()));
  why_->setText(to_q(q.where) + " " + to_q(q.taken) + " " + to_q(q.matters));
}

}  // namespace askcount::app

#include "moc_kit_ask.cpp"
