#include "app/theme.h"

#include "base/srgb.h"

#include <QApplication>
#include <QFontDatabase>
#include <QPainter>
#include <QPalette>
#include <QStyleFactory>

/// Resources of a static library must be asked for by name, outside any namespace.
static void takeResources() { Q_INIT_RESOURCE(resources); }

namespace hygros::app {
namespace {
const Theme dark{QColor("#26282a"), QColor("#2d2f31"), QColor("#353739"), QColor("#45484a"), QColor("#e6e6e4"),
                 QColor("#a9adaf"), QColor("#6c7072"), QColor("#B4C95A"), QColor("#1f2123")};
const Theme light{QColor("#c9cacb"), QColor("#d6d7d8"), QColor("#e2e3e3"), QColor("#b0b2b3"), QColor("#1c1d1e"),
                  QColor("#484b4d"), QColor("#85898b"), QColor("#475606"), QColor("#efefef")};
bool lightNow = false;
} // namespace

const Theme& Theme::now() { return lightNow ? light : dark; }
void Theme::useLight(bool wanted) { lightNow = wanted; }
bool Theme::isLight() { return lightNow; }

QColor familyHue(scene::Family family)
{
    switch (family) {
    case scene::Family::Air: return QColor("#9DB4C8");
    case scene::Family::Fire: return QColor("#D0654B");
    case scene::Family::Weather: return QColor("#8F93D6");
    case scene::Family::Water: return QColor("#3F9AA6");
    case scene::Family::Lights: return QColor("#E3C770");
    case scene::Family::Set: return QColor("#A39B8B");
    case scene::Family::Finish: return QColor("#C9C9C9");
    }
    return {};
}

QColor displayColour(const Vec3& linear)
{
    const auto channel = [](float c) { return static_cast<int>(255.f * srgbOfLinear(std::clamp(c, 0.f, 1.f)) + 0.5f); };
    return {channel(linear.x), channel(linear.y), channel(linear.z)};
}

Vec3 linearColour(const QColor& c)
{
    return {linearOfSrgb(c.redF()), linearOfSrgb(c.greenF()), linearOfSrgb(c.blueF())};
}

QFont textFont(int pixels, int weight)
{
    QFont f("Inter");
    f.setPixelSize(pixels);
    f.setWeight(static_cast<QFont::Weight>(weight));
    return f;
}

QFont figureFont(int pixels)
{
    // A fixed-pitch sister font gives the same family name where both are installed: ask for this one's own style.
    QFont f("B612");
    f.setPixelSize(pixels);
    f.setStyleName("Regular");
    f.setFixedPitch(false);
    f.setWeight(QFont::Normal);
    return f;
}

void applyTheme()
{
    static bool loaded = false;
    if (!loaded) {
        takeResources();
        for (const char* name : {"Inter-Regular", "Inter-Medium", "Inter-SemiBold", "B612-Regular"})
            QFontDatabase::addApplicationFont(QString(":/hygros/fonts/%1.otf").arg(name));
        QApplication::setStyle(QStyleFactory::create("Fusion"));
        loaded = true;
    }
    QApplication::setFont(textFont(12));
    const Theme& t = Theme::now();
    QPalette p;
    p.setColor(QPalette::Window, t.window);
    p.setColor(QPalette::WindowText, t.text);
    p.setColor(QPalette::Base, t.field);
    p.setColor(QPalette::AlternateBase, t.panel);
    p.setColor(QPalette::Text, t.text);
    p.setColor(QPalette::Button, t.panel);
    p.setColor(QPalette::ButtonText, t.text);
    p.setColor(QPalette::ToolTipBase, t.raised);
    p.setColor(QPalette::ToolTipText, t.text);
    p.setColor(QPalette::PlaceholderText, t.quiet);
    p.setColor(QPalette::Highlight, t.accent);
    p.setColor(QPalette::HighlightedText, QColor("#16180c"));
    p.setColor(QPalette::Mid, t.rule);
    p.setColor(QPalette::Disabled, QPalette::Text, t.faint);
    p.setColor(QPalette::Disabled, QPalette::WindowText, t.faint);
    p.setColor(QPalette::Disabled, QPalette::ButtonText, t.faint);
    QApplication::setPalette(p);
    qApp->setStyleSheet(
        QString(
            "QMenuBar{background:%1;color:%3;padding:3px 4px}QMenuBar::item{padding:4px 10px;background:transparent}"
            "QMenuBar::item:selected{background:%2}QMenu{background:%2;color:%3;border:1px solid %4}"
            "QMenu::item{padding:5px 26px 5px 18px}QMenu::item:selected{background:%4}"
            "QMenu::item:disabled{color:%5}QMenu::separator{height:1px;background:%4;margin:4px 8px}"
            "QToolTip{background:%2;color:%3;border:1px solid %4;padding:3px}"
            "QScrollBar:vertical{background:transparent;width:8px;margin:0}"
            "QScrollBar::handle:vertical{background:%4;min-height:30px}"
            "QScrollBar::add-line,QScrollBar::sub-line{height:0}QScrollBar::add-page,QScrollBar::sub-page{background:"
            "none}")
            .arg(t.window.name(), t.panel.name(), t.text.name(), t.rule.name(), t.faint.name()));
}

QIcon familyIcon(scene::Family family)
{
    const QIcon drawn(
        QString(":/hygros/icons/%1.svg").arg(QString::fromStdString(scene::familyName(family)).toLower()));
    if (!lightNow)
        return drawn;
    // On light panels the same lines, dark enough to be seen.
    QPixmap darker = drawn.pixmap(QSize(80, 80));
    QPainter p(&darker);
    p.setCompositionMode(QPainter::CompositionMode_SourceIn);
    p.fillRect(darker.rect(), familyHue(family).darker(190));
    p.end();
    return QIcon(darker);
}
} // namespace hygros::app
