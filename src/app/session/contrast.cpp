// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/contrast.h"

#include <nlohmann/json.hpp>

#include <QDBusMessage>
#include <QDBusVariant>
#include <QGuiApplication>
#include <QPalette>
#include <QStandardPaths>

#include "app/session/settings.h"

namespace askcount::app {
namespace {

constexpr int kPatience_ms = 500;
constexpr const char* kSetting = "contrast";

/// The palette the desktop gave, before the window set its own.
const QPalette& palette_of_desktop() {
  static const QPalette given = QGuiApplication::palette();
  return given;
}

}  // namespace

Contrast chosen_contrast() {
  const std::string word = chosen_word(kSetting);
  return word == "high" ? Contrast::High : word == "normal" ? Contrast::Normal : Contrast::AsDesktop;
}

void keep_contrast(Contrast contrast) {
  keep_setting(kSetting, contrast == Contrast::High     ? "high"
                         : contrast == Contrast::Normal ? "normal"
                                                        : "desktop");
}

bool desktop_wants_contrast(QDBusConnection desktop) {
  if (desktop.isConnected()) {
    QDBusMessage ask =
        QDBusMessage::createMethodCall("org.freedesktop.portal.Desktop", "/org/freedesktop/portal/desktop",
                                       "org.freedesktop.portal.Settings", "Read");
    ask << "org.freedesktop.appearance"
        << "contrast";
    const QDBusMessage told = desktop.call(ask, QDBus::Block, kPatience_ms);
    if (told.type() == QDBusMessage::ReplyMessage && !told.arguments().isEmpty()) {
      QVariant value = told.arguments().front();
      while (value.canConvert<QDBusVariant>()) value = value.value<QDBusVariant>().variant();
      return value.toUInt() == 1;
    }
  }
  const QColor words = palette_of_desktop().color(QPalette::WindowText);
  const QColor under = palette_of_desktop().color(QPalette::Window);
  return (words == Qt::black && under == Qt::white) || (words == Qt::white && under == Qt::black);
}

QDBusConnection desktop_bus() {
  // Without an address the library would start a bus of its own to ask it.
  const bool there = qEnvironmentVariableIsSet("DBUS_SESSION_BUS_ADDRESS") ||
                     !QStandardPaths::locate(QStandardPaths::RuntimeLocation, "bus").isEmpty();
  return there ? QDBusConnection::sessionBus() : QDBusConnection("none");
}

bool wants_contrast() {
  const Contrast chosen = chosen_contrast();
  return chosen == Contrast::High || (chosen == Contrast::AsDesktop && desktop_wants_contrast(desktop_bus()));
}

}  // namespace askcount::app
