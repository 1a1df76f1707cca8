#include "app/history_view.h"

#include "app/theme.h"
#include "app/words.h"
#include "scene/differences.h"

#include <QDateTime>
#include <QListWidget>
#include <QVBoxLayout>

namespace hygros::app {

HistoryView::HistoryView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setObjectName("historyView");
    const Theme& t = Theme::now();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 4, 12, 8);
    list_ = new QListWidget(this);
    list_->setObjectName("history");
    list_->setAccessibleName(say("History"));
    list_->setToolTip(
        say("A click goes to how it was after that step; what came later stays until something else is done."));
    list_->setStyleSheet(QString("QListWidget{border:none;background:%1}QListWidget::item{padding:2px 4px;color:%2}"
                                 "QListWidget::item:selected{background:%3;color:%2;border-left:2px solid %4}")
                             .arg(t.panel.name(), t.text.name(), t.raised.name(), t.accent.name()));
    column->addWidget(list_);
    timer_.setSingleShot(true);
    timer_.setInterval(120);
    connect(&timer_, &QTimer::timeout, this, &HistoryView::fill);
    connect(&session.document(), &Document::projectChanged, this, [this] {
        if (isVisible() && !timer_.isActive())
            timer_.start();
    });
    connect(list_, &QListWidget::currentRowChanged, this, [this](int row) {
        if (!filling_ && row >= 0) // the newest stands first
            session_.document().goTo(static_cast<std::size_t>(list_->count() - 1 - row));
    });
}

void HistoryView::showEvent(QShowEvent*) { fill(); }

QString HistoryView::words(std::size_t state) const
{
    const auto& states = session_.document().history().states();
    if (state == 0)
        return say("As it was opened, or as far back as is kept");
    const auto differences = scene::differencesBetween(states[state - 1].project, states[state].project);
    const QString name = QString::fromStdString(states[state].name);
    if (differences.empty())
        return name;
    const QString first = QString::fromStdString(differences.front().text);
    return differences.size() == 1 ? first
                                   : say("%1 (%2 changes, the first: %3)").arg(name).arg(differences.size()).arg(first);
}

void HistoryView::fill()
{
    filling_ = true;
    const scene::History& history = session_.document().history();
    const auto& states = history.states();
    list_->clear();
    for (std::size_t i = states.size(); i-- > 0;) {
        const auto seconds = std::chrono::system_clock::to_time_t(states[i].time);
        auto* item = new QListWidgetItem(QDateTime::fromSecsSinceEpoch(seconds).toString("HH:mm:ss") + "   " +
                                         words(i));
        if (i > history.at())
            item->setForeground(Theme::now().faint); // undone
        list_->addItem(item);
    }
    list_->setCurrentRow(static_cast<int>(states.size() - 1 - history.at()));
    filling_ = false;
}
} // namespace hygros::app
