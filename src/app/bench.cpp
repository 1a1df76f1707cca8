#include "app/bench.h"

#include "app/theme.h"
#include "app/words.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QStackedWidget>

namespace hygros::app {

Bench::Bench(QWidget* parent) : QWidget(parent)
{
    setObjectName("bench");
    setAttribute(Qt::WA_StyledBackground);
    const Theme& t = Theme::now();
    setStyleSheet(QString("#bench{background:%1}").arg(t.panel.name()));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    head_ = new QHBoxLayout;
    head_->setContentsMargins(12, 5, 12, 3);
    head_->setSpacing(22);
    head_->addStretch(1);
    pages_ = new QStackedWidget(this);
    column->addLayout(head_);
    column->addWidget(pages_, 1);
}

void Bench::addPage(const QString& name, QWidget* page)
{
    const Theme& t = Theme::now();
    auto* button = new QPushButton(say(name.toUtf8()), this);
    button->setCheckable(true);
    button->setObjectName("page:" + name);
    button->setCursor(Qt::PointingHandCursor);
    button->setFont(textFont(13, QFont::DemiBold));
    button->setStyleSheet(
        QString(
            "QPushButton{border:0;border-bottom:2px solid transparent;background:transparent;color:%1;padding:2px 0}"
            "QPushButton:hover{color:%2}QPushButton:checked{color:%2;border-bottom-color:%3}QPushButton:focus{color:%"
            "3}")
            .arg(t.quiet.name(), t.text.name(), t.accent.name()));
    head_->insertWidget(head_->count() - 1, button);
    pages_->addWidget(page);
    names_.push_back({name, button});
    connect(button, &QPushButton::clicked, this, [this, name] { showPage(name); });
    if (names_.size() == 1)
        showPage(name);
}

void Bench::showPage(const QString& name)
{
    for (std::size_t i = 0; i < names_.size(); ++i) {
        names_[i].second->setChecked(names_[i].first == name);
        if (names_[i].first == name)
            pages_->setCurrentIndex(static_cast<int>(i));
    }
    Q_EMIT pageShown(shownPage());
}

QStringList Bench::pages() const
{
    QStringList out;
    for (const auto& [name, button] : names_)
        out << name;
    return out;
}

QString Bench::shownPage() const { return names_[static_cast<std::size_t>(pages_->currentIndex())].first; }
} // namespace hygros::app
