#include "app/checks_panel.h"

#include "app/theme.h"
#include "app/words.h"

#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

namespace hygros::app {
using reading::Finding;

namespace {
constexpr int wide = 470;
const char* const gradeWords[] = {QT_TRANSLATE_NOOP("window", "trouble"), QT_TRANSLATE_NOOP("window", "advice"),
                                  QT_TRANSLATE_NOOP("window", "to know")};
} // namespace

ChecksPanel::ChecksPanel(Session& session, QWidget* parent) : QFrame(parent, Qt::Popup), session_(session)
{
    setObjectName("checksPanel");
    const Theme& t = Theme::now();
    setStyleSheet(QString("#checksPanel{background:%1;border:1px solid %2}QScrollArea,#checkRows{border:none;"
                          "background:%1}QPushButton{background:transparent;border:1px solid %2;color:%3;padding:2px "
                          "9px}QPushButton:hover,QPushButton:focus{border-color:%4}"
                          "QPushButton#checkElement{border:none;padding:0;text-align:left;color:%3}"
                          "QPushButton#checkElement:hover,QPushButton#checkElement:focus{color:%4}")
                      .arg(t.raised.name(), t.rule.name(), t.text.name(), t.accent.name()));
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(12, 10, 6, 10);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_ = new QWidget(scroll);
    list_->setObjectName("checkRows");
    column_ = new QVBoxLayout(list_);
    column_->setContentsMargins(0, 0, 6, 0);
    column_->setSpacing(10);
    scroll->setWidget(list_);
    outer->addWidget(scroll);
    setFixedWidth(wide);
    connect(&session.checks(), &Checks::changed, this, [this] {
        if (isVisible())
            fill();
    });
}

void ChecksPanel::fill()
{
    while (QLayoutItem* item = column_->takeAt(0)) {
        if (item->widget())
            item->widget()->deleteLater();
        delete item;
    }
    const Theme& t = Theme::now();
    const auto& all = session_.checks().all();
    for (const Finding& f : all) {
        auto* line = new QWidget(list_);
        auto* rows = new QGridLayout(line);
        rows->setContentsMargins(0, 0, 0, 0);
        rows->setHorizontalSpacing(12);
        rows->setVerticalSpacing(2);
        rows->setColumnStretch(1, 1);
        auto* grade = new QLabel(say(gradeWords[static_cast<int>(f.grade)]), line);
        grade->setFont(textFont(11));
        grade->setFixedWidth(52);
        grade->setStyleSheet("color:" + (f.grade == Finding::Grade::Trouble  ? familyHue(scene::Family::Fire)
                                         : f.grade == Finding::Grade::Advice ? familyHue(scene::Family::Lights)
                                                                             : t.quiet)
                                            .name());
        rows->addWidget(grade, 0, 0, Qt::AlignTop);
        const scene::Element* e = session_.project().find(f.element);
        if (e) {
            auto* name = new QPushButton(QString::fromStdString(e->name), line);
            name->setObjectName("checkElement");
            name->setFont(textFont(12, QFont::DemiBold));
            name->setCursor(Qt::PointingHandCursor);
            name->setToolTip(say("Its card"));
            rows->addWidget(name, 0, 1, Qt::AlignLeft);
            connect(name, &QPushButton::clicked, this, [this, id = QString::fromStdString(f.element)] {
                hide();
                Q_EMIT wanted(id);
            });
        } else {
            auto* name = new QLabel(say("The picture"), line);
            name->setFont(textFont(12, QFont::DemiBold));
            rows->addWidget(name, 0, 1);
        }
        auto* text = new QLabel(QString::fromStdString(f.text), line);
        text->setObjectName("checkText");
        text->setTextFormat(Qt::PlainText);
        text->setWordWrap(true);
        rows->addWidget(text, 1, 1);
        if (!f.fix.label.empty()) {
            auto* mend = new QPushButton(QString::fromStdString(f.fix.label), line);
            mend->setObjectName("mend:" + QString::fromStdString(f.id));
            rows->addWidget(mend, 2, 1, Qt::AlignLeft);
            connect(mend, &QPushButton::clicked, this, [this, f] { session_.checks().mend(f); });
        }
        column_->addWidget(line);
    }
    if (all.empty()) {
        auto* well = new QLabel(say("All is well: every element adds something, and nothing looks other than meant."),
                                list_);
        well->setObjectName("checkText");
        well->setWordWrap(true);
        column_->addWidget(well);
    }
    column_->addStretch(1);
    list_->adjustSize();
    const int high = std::min(460, list_->heightForWidth(wide - 40) + 26);
    setFixedHeight(std::max(60, high));
}

void ChecksPanel::openAt(const QPoint& topRight)
{
    fill();
    move(topRight.x() - wide, topRight.y());
    show();
}
} // namespace hygros::app
