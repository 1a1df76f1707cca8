#include "app/first_page.h"

#include "app/theme.h"
#include "app/words.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>
#include <QGridLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPixmap>
#include <QPushButton>
#include <QScrollArea>
#include <QToolButton>
#include <QVBoxLayout>

namespace hygros::app {
namespace {
struct Start {
    const char *file, *name, *words;
};
constexpr Start starts[] = {
    {"first-light", QT_TRANSLATE_NOOP("window", "First light"),
     QT_TRANSLATE_NOOP("window", "Haze, and mist on the water, before a low sun")},
    {"lamps", QT_TRANSLATE_NOOP("window", "Lamps in drizzle"), QT_TRANSLATE_NOOP("window", "Beams at night, in rain")},
    {"january", QT_TRANSLATE_NOOP("window", "January"),
     QT_TRANSLATE_NOOP("window", "Snow that falls and snow that lies")},
    {"estuary", QT_TRANSLATE_NOOP("window", "Estuary"), QT_TRANSLATE_NOOP("window", "Open water under haze")},
    {"weir-pool", QT_TRANSLATE_NOOP("window", "Weir pool"), QT_TRANSLATE_NOOP("window", "A boat in water that moves")},
    {"valley-inversion", QT_TRANSLATE_NOOP("window", "Valley"),
     QT_TRANSLATE_NOOP("window", "A layer of cloud seen from above")}};
} // namespace

QString FirstPage::demo(const QString& name)
{
    for (const QString& folder :
         {QCoreApplication::applicationDirPath() + "/../share/hygros/demo", QString(HYGROS_RECIPES) + "/.."})
        if (const QFileInfo file(folder + "/" + name + ".hygros"); file.exists())
            return QDir::cleanPath(file.absoluteFilePath());
    return {};
}

FirstPage::FirstPage(QWidget* parent) : QWidget(parent)
{
    setObjectName("firstPage");
    setAccessibleName(say("First page"));
    const Theme& t = Theme::now();
    setAttribute(Qt::WA_StyledBackground);
    setStyleSheet(QString("#firstPage,#firstInner{background:%1}"
                          "QPushButton{background:transparent;border:1px solid %2;color:%3;padding:7px 14px;"
                          "text-align:left}QPushButton:hover,QPushButton:focus{border-color:%4}"
                          "QToolButton{background:transparent;border:1px solid transparent;color:%3;padding:4px}"
                          "QToolButton:hover,QToolButton:focus{border-color:%4}")
                      .arg(t.panel.name(), t.rule.name(), t.text.name(), t.accent.name()));
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(0, 0, 0, 0);
    auto* area = new QScrollArea(this);
    area->setFrameShape(QFrame::NoFrame);
    area->setWidgetResizable(true);
    area->setFocusPolicy(Qt::NoFocus);
    auto* inner = new QWidget(area);
    inner->setObjectName("firstInner");
    area->setWidget(inner);
    outer->addWidget(area);
    auto* sides = new QHBoxLayout(inner);
    sides->setContentsMargins(24, 18, 20, 16);
    sides->setSpacing(28);
    const auto head = [&](const QString& text, int size) {
        auto* l = new QLabel(text, inner);
        l->setFont(textFont(size, QFont::DemiBold));
        return l;
    };
    const auto words = [&](const QString& text) {
        auto* l = new QLabel(text, inner);
        l->setWordWrap(true);
        l->setStyleSheet("color:" + t.quiet.name());
        return l;
    };

    auto* left = new QVBoxLayout;
    left->setSpacing(6);
    left->addWidget(head(say("A shot that stands"), 15));
    left->addWidget(words(say("Open one, turn its rulers, see what they do.")));
    auto* places = new QGridLayout;
    places->setSpacing(6);
    int i = 0;
    for (const Start& s : starts) {
        const QString file = demo(s.file);
        if (file.isEmpty())
            continue;
        auto* b = new QToolButton(inner);
        b->setObjectName(QString("start:%1").arg(s.file));
        b->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
        b->setIcon(QPixmap(QString(":/hygros/starts/%1.jpg").arg(s.file)));
        b->setIconSize({136, 76});
        b->setText(say(s.name));
        b->setToolTip(say(s.words));
        b->setAccessibleDescription(say(s.words));
        b->setFont(textFont(12));
        places->addWidget(b, i / 3, i % 3);
        connect(b, &QToolButton::clicked, this, [this, file] { Q_EMIT demoChosen(file); });
        ++i;
    }
    left->addLayout(places);
    left->addStretch(1);
    sides->addLayout(left, 3);

    auto* right = new QVBoxLayout;
    right->setSpacing(6);
    const auto button = [&](const QString& text, const char* name, void (FirstPage::*wanted)()) {
        auto* b = new QPushButton(text, inner);
        b->setObjectName(name);
        b->setFont(textFont(12));
        connect(b, &QPushButton::clicked, this, wanted);
        right->addWidget(b);
        return b;
    };
    right->addWidget(head(say("A set of your own"), 15));
    right->addWidget(words(say("Geometry in metres as glTF, OBJ, PLY or FBX; a camera in it is taken.")));
    button(say("Import a set…"), "startSet", &FirstPage::setWanted);
    button(say("Begin with nothing"), "startEmpty", &FirstPage::emptyWanted);
    right->addSpacing(14);
    right->addWidget(head(say("A plate"), 15));
    right->addWidget(words(say("A picture that is rendered already, with its depth: air is put in front of it.")));
    button(say("Import a plate…"), "startPlate", &FirstPage::plateWanted);
    right->addSpacing(14);
    if (!demo("first-light").isEmpty()) {
        right->addWidget(head(say("A first fog, guided"), 15));
        right->addWidget(words(say("Two minutes at the lock at Marl: five steps, each of which you do yourself.")));
        button(say("Show me"), "startGuide", &FirstPage::guideWanted);
    }
    right->addStretch(1);
    auto* close = new QPushButton(say("Not now"), inner);
    close->setObjectName("startClose");
    close->setToolTip(say("This page stays under Help"));
    right->addWidget(close, 0, Qt::AlignRight);
    connect(close, &QPushButton::clicked, this, &FirstPage::closed);
    sides->addLayout(right, 2);
}

void FirstPage::keyPressEvent(QKeyEvent* e)
{
    if (e->key() == Qt::Key_Escape)
        return Q_EMIT closed();
    QWidget::keyPressEvent(e);
}
} // namespace hygros::app
