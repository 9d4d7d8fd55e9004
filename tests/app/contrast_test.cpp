// SPDX-License-Identifier: GPL-3.0-or-later
// High contrast: asked of the desktop's settings portal over a real bus, and chosen in the window.
#include "app/session/contrast.h"

#include <atomic>
#include <QDBusContext>
#include <QDBusVariant>
#include <QProcess>
#include <thread>

#include "app/session/keeping.h"
#include "app/session/languages.h"
#include "app/session/settings.h"
#include "app/style/style.h"
#include "support.h"

namespace askcount::app {
namespace {

/// What a desktop has in place of its settings: answers what it is told to.
class Portal : public QObject {
  Q_OBJECT
  Q_CLASSINFO("D-Bus Interface", "org.freedesktop.portal.Settings")
 public:
  explicit Portal(unsigned contrast) : contrast_(contrast) {}
  int asked = 0;

 public slots:
  QDBusVariant Read(const QString& group, const QString& name) {
    if (group != "org.freedesktop.appearance" || name != "contrast") return {};
    ++asked;
    return QDBusVariant(QVariant::fromValue(QDBusVariant(contrast_)));
  }

 private:
  unsigned contrast_;
};

/// A bus of its own.
class Bus {
 public:
  Bus() {
    daemon_.start("dbus-daemon", {"--session", "--nofork", "--print-address"});
    if (daemon_.waitForReadyRead(10000)) address_ = QString::fromUtf8(daemon_.readLine()).trimmed();
  }
  ~Bus() {
    daemon_.kill();
    daemon_.waitForFinished();
  }
  QString address() const { return address_; }

 private:
  QProcess daemon_;
  QString address_;
};

bool asked_of(const QString& address, const QString& name) {
  bool wants = false;
  std::atomic<bool> done = false;
  // The portal answers in this thread while the other waits.
  std::thread asks([&] {
    wants = desktop_wants_contrast(QDBusConnection::connectToBus(address, name));
    QDBusConnection::disconnectFromBus(name);
    done = true;
  });
  while (!done) QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
  asks.join();
  return wants;
}

TEST(DesktopContrast, IsAskedOfTheSettingsPortal) {
  Bus bus;
  ASSERT_FALSE(bus.address().isEmpty());
  EXPECT_FALSE(asked_of(bus.address(), "nobody")) << "a bus without a portal";
  for (const unsigned contrast : {0u, 1u}) {
    Portal portal(contrast);
    QDBusConnection desktop = QDBusConnection::connectToBus(bus.address(), "desktop");
    ASSERT_TRUE(
        desktop.registerObject("/org/freedesktop/portal/desktop", &portal, QDBusConnection::ExportAllSlots));
    ASSERT_TRUE(desktop.registerService("org.freedesktop.portal.Desktop"));
    EXPECT_EQ(asked_of(bus.address(), "asks"), contrast == 1);
    EXPECT_EQ(portal.asked, 1);
    desktop.unregisterService("org.freedesktop.portal.Desktop");
    QDBusConnection::disconnectFromBus("desktop");
  }
  EXPECT_FALSE(desktop_wants_contrast(QDBusConnection("no such connection")));
}

TEST(ChosenContrast, IsKeptBesideTheLanguage) {
  test::fs::remove(data_folder() / "settings.json");
  EXPECT_EQ(chosen_contrast(), Contrast::AsDesktop);
  choose_language("fr");
  keep_contrast(Contrast::High);
  EXPECT_TRUE(wants_contrast());
  EXPECT_EQ(chosen_language(), "fr");
  choose_language("");
  EXPECT_EQ(chosen_contrast(), Contrast::High) << "another setting leaves it";
  keep_contrast(Contrast::Normal);
  EXPECT_FALSE(wants_contrast());
  test::write(data_folder() / "settings.json", std::string("{\"contrast\": 4}"));
  EXPECT_EQ(chosen_contrast(), Contrast::AsDesktop);
  test::write(data_folder() / "settings.json", std::string("[1"));
  EXPECT_EQ(chosen_contrast(), Contrast::AsDesktop);
  keep_contrast(Contrast::High);
  EXPECT_EQ(chosen_contrast(), Contrast::High) << "damaged settings are written anew";
  test::fs::remove(data_folder() / "settings.json");
}

}  // namespace
}  // namespace askcount::app

#include "contrast_test.moc"
