// SPDX-License-Identifier: GPL-3.0-or-later
// Typing into the window's sentences as a hand does.
#pragma once

#include <gtest/gtest.h>

#include <QLineEdit>
#include <QTest>

#include "app/widgets/sentence.h"

namespace askcount::app {

/// Opens a slot with a key, writes over what is there, and presses Return.
inline void type_into(SlotField* field, const QString& text) {
  ASSERT_TRUE(field);
  field->setFocus();
  QTest::keyClick(field, Qt::Key_F2);
  auto* editor = field->findChild<QLineEdit*>();
  ASSERT_TRUE(editor) << field->objectName().toStdString();
  editor->selectAll();
  QTest::keyClicks(editor, text);
  QTest::keyClick(editor, Qt::Key_Return);
}

}  // namespace askcount::app
