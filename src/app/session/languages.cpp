// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/languages.h"

#include <nlohmann/json.hpp>

#include <memory>
#include <optional>
#include <QCoreApplication>
#include <QDate>
#include <QDir>
#include <QLibraryInfo>
#include <QTranslator>

#include "app/session/keeping.h"
#include "app/session/settings.h"
#include "app/style/text.h"
#include "base/error.h"
#include "base/language.h"

namespace askcount::app {
namespace {

/// Where translations lie, the person's own first.
QStringList folders() {
  return {to_q((data_folder() / "translations").string()),
          QCoreApplication::applicationDirPath() + "/../share/ask-count/translations", ":/translations"};
}

/// The file of a language; empty where nobody translated it.
QString file_of(const QString& code) {
  for (const QString& folder : folders())
    if (const QString file = folder + "/" + code + ".qm"; QFile::exists(file)) return file;
  return {};
}

/// The first of the desktop's languages that is known, or its own where none is.
QString of_desktop() {
  const QStringList known = languages();
  for (const QString& wanted : QLocale::system().uiLanguages()) {
    QString code = wanted;
    code.replace('-', '_');
    for (; !code.isEmpty(); code.truncate(std::max<qsizetype>(0, code.lastIndexOf('_'))))
      if (known.contains(code)) return code;
  }
  return "en";
}

std::optional<QLocale>& written_as() {
  static std::optional<QLocale> locale;
  return locale;
}

/// How numbers are written: as the desktop says where it speaks that language too. English is that of no
/// country where the desktop does not say which.
QLocale numbers_of(const QString& code, bool chosen) {
  const QLocale system = QLocale::system(), own(code);
  if (!chosen || system.language() == own.language()) return system;
  return own.language() == QLocale::English ? QLocale::c() : own;
}

/// The language's short date with the whole year.
QString pattern_of(const QLocale& locale) {
  QString pattern = locale.dateFormat(QLocale::ShortFormat);
  if (!pattern.contains("yyyy")) pattern.replace("yy", "yyyy");
  return pattern;
}

}  // namespace

QStringList languages() {
  QStringList codes = {"en"};
  for (const QString& folder : folders())
    for (const QString& file : QDir(folder).entryList({"*.qm"}, QDir::Files, QDir::Name))
      if (const QString code = file.chopped(3); !codes.contains(code)) codes << code;
  return codes;
}

QString chosen_language() {
  return to_q(chosen_word("language"));
}

void choose_language(const QString& code) {
  keep_setting("language", code.toStdString());
}

QString speak_language(const QString& code) {
  static std::vector<std::unique_ptr<QTranslator>> of_qt;
  of_qt.clear();
  const QString spoken = code.isEmpty() ? of_desktop() : code;
  const QLocale numbers = numbers_of(spoken, !code.isEmpty());
  written_as() = numbers;
  Language language;
  language.point = numbers.decimalPoint().toStdString();
  language.thousands = numbers.groupSeparator().toStdString();
  auto words = std::make_shared<QTranslator>();
  if (const QString file = file_of(spoken); !file.isEmpty() && words->load(file)) {
    language.translate = [words](const char* english, long long n) {
      const int many = n < 0 ? -1 : static_cast<int>(std::min<long long>(n, 1000000000));
      return words->translate("", english, nullptr, many).toStdString();
    };
    for (const char* part : {"qtbase", "qt"}) {
      auto qt = std::make_unique<QTranslator>();
      if (!qt->load(QString("%1_%2").arg(part, spoken), QLibraryInfo::path(QLibraryInfo::TranslationsPath)))
        continue;
      QCoreApplication::installTranslator(qt.get());
      of_qt.push_back(std::move(qt));
    }
  }
  speak(std::move(language));
  QLocale::setDefault(numbers);
  return spoken;
}

QString shown_day(const Day& day) {
  if (!written_as() || written_as()->language() == QLocale::C) return to_q(format_day(day));
  const QDate date(static_cast<int>(day.year()), static_cast<int>(static_cast<unsigned>(day.month())),
                   static_cast<int>(static_cast<unsigned>(day.day())));
  return written_as()->toString(date, pattern_of(*written_as()));
}

Day read_day(const QString& typed) {
  if (written_as()) {
    for (const QString& pattern : {pattern_of(*written_as()), written_as()->dateFormat(QLocale::ShortFormat),
                                   written_as()->dateFormat(QLocale::LongFormat)})
      if (const QDate date = written_as()->toDate(typed.trimmed(), pattern); date.isValid())
        return std::chrono::year(date.year() < 1970 ? date.year() + 100 : date.year()) /
               std::chrono::month(static_cast<unsigned>(date.month())) /
               std::chrono::day(static_cast<unsigned>(date.day()));
  }
  return parse_day(typed.toStdString());
}

}  // namespace askcount::app
