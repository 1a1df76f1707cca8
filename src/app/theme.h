#pragma once
/// Colours and fonts of the window; dark by default, with a light variant. The surround of the picture has no hue.
#include <QColor>
#include <QFont>
#include <QIcon>

#include "scene/project.h"

namespace hygros::app {

struct Theme {
    QColor window, panel, raised, rule, text, quiet, faint, accent, field;
    static const Theme& now();
    static void useLight(bool light);
    static bool isLight();
};

/// Thin hue of a family: a card's edge, a line in the Transect.
QColor familyHue(scene::Family family);
/// A linear colour as it is shown, and back.
QColor displayColour(const Vec3& linear);
Vec3 linearColour(const QColor& shown);
/// Inter for words; weight as QFont::Weight.
QFont textFont(int pixels, int weight = QFont::Normal);
/// B612 for figures, whose digits align.
QFont figureFont(int pixels);
/// Loads the fonts from the resources and sets palette and style of the application.
void applyTheme();
QIcon familyIcon(scene::Family family);
} // namespace hygros::app
