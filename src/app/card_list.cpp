/// The list of cards: what stands in it, choosing and dragging.
#include "app/card_column.h"

#include "app/editors.h"
#include "app/theme.h"
#include "reading/transect.h"

#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace hygros::app {
using scene::Family;

std::vector<std::string> CardColumn::wantedLayout() const
{
    std::vector<std::string> out;
    const scene::Project& project = session_.project();
    std::string last;
    for (const scene::Element& e : project.elements) {
        if (e.kind->family != family_)
            continue;
        const scene::Group* g = project.findGroup(e.group);
        if (g && g->id != last)
            out.push_back("#" + g->id);
        last = g ? g->id : std::string();
        if (!g || !g->folded)
            out.push_back(e.id);
    }
    return out;
}

QWidget* CardColumn::makeCard(const scene::Element& e)
{
    auto* card = new Card(session_, e.id, open_.count(e.id) > 0, filter_, this);
    connect(card, &Card::opened, this, [this](const QString& id, bool open) {
        anchor_ = id.toStdString();
        session_.selection().setSelected(open ? id.toStdString() : std::string());
        if (open)
            open_.insert(id.toStdString());
        else
            open_.erase(id.toStdString());
    });
    connect(card, &Card::pressed, this,
            [this](const QString& id, Qt::KeyboardModifiers modifiers) { choose(id.toStdString(), modifiers); });
    connect(card, &Card::dragged, this, [this](const QString&, const QPoint& at) { showDrop(at); });
    connect(card, &Card::dropped, this,
            [this](const QString& id, const QPoint& at) { drop(session_.arranger().with(id.toStdString()), at); });
    connect(card, &Card::recipeWanted, this, &CardColumn::recipeWanted);
    cards_.push_back(card);
    if (e.group.empty())
        return card;
    // Members stand a little to the right of their group's head.
    auto* holder = new QWidget(this);
    auto* row = new QHBoxLayout(holder);
    row->setContentsMargins(8, 0, 0, 0);
    row->addWidget(card);
    connect(card, &QObject::destroyed, holder, &QObject::deleteLater);
    return holder;
}

QWidget* CardColumn::makeHead(const scene::Group& g)
{
    auto* head = new GroupHead(session_, g.id, this);
    connect(head, &GroupHead::dragged, this, [this](const QString&, const QPoint& at) { showDrop(at); });
    connect(head, &GroupHead::dropped, this,
            [this](const QString& id, const QPoint& at) { dropGroup(id.toStdString(), at); });
    connect(head, &GroupHead::recipeWanted, this, &CardColumn::recipeWanted);
    heads_.push_back(head);
    return head;
}

void CardColumn::choose(const std::string& element, Qt::KeyboardModifiers modifiers)
{
    Selection& selection = session_.selection();
    if (!(modifiers & Qt::ShiftModifier) || anchor_.empty()) {
        anchor_ = element;
        return selection.toggle(element);
    }
    std::vector<std::string> between;
    bool in = false;
    for (const Card* c : cards_) {
        const bool end = c->element() == element || c->element() == anchor_;
        if (end || in)
            between.push_back(c->element());
        if (end)
            in = !in && element != anchor_;
    }
    // The one that was clicked last is the selected one.
    if (!between.empty() && between.back() != element)
        std::reverse(between.begin(), between.end());
    selection.setChosen(between);
}

void CardColumn::chooseAll()
{
    std::vector<std::string> all;
    for (const Card* c : cards_)
        all.push_back(c->element());
    session_.selection().setChosen(all);
}

std::string CardColumn::beforeAt(const QPoint& global) const
{
    for (const Card* c : cards_)
        if (global.y() < c->mapToGlobal(QPoint(0, std::min(c->height() / 2, 40))).y())
            return c->element();
    return {};
}

void CardColumn::showDrop(const QPoint& global)
{
    if (!mark_) {
        mark_ = new QWidget(scroll_->widget());
        mark_->setStyleSheet("background:" + Theme::now().accent.name());
    }
    const std::string before = beforeAt(global);
    int y = cards_.empty() ? 0 : cards_.back()->mapTo(scroll_->widget(), QPoint(0, cards_.back()->height() + 4)).y();
    for (const Card* c : cards_)
        if (c->element() == before)
            y = c->mapTo(scroll_->widget(), QPoint(0, -5)).y();
    mark_->setGeometry(0, std::max(0, y), scroll_->widget()->width() - 6, 2);
    mark_->raise();
    mark_->show();
}

void CardColumn::drop(const std::vector<std::string>& elements, const QPoint& global)
{
    if (mark_)
        mark_->hide();
    const std::string before = beforeAt(global);
    // Where it stands already nothing is done.
    if (std::find(elements.begin(), elements.end(), before) == elements.end())
        QTimer::singleShot(0, this, [this, elements, before] { session_.arranger().moveBefore(elements, before); });
}

void CardColumn::dropGroup(const std::string& group, const QPoint& global)
{
    if (mark_)
        mark_->hide();
    const std::string before = beforeAt(global);
    QTimer::singleShot(0, this, [this, group, before] { session_.arranger().moveGroupBefore(group, before); });
}

void CardColumn::applyFilter()
{
    filter_ = {find_->text().trimmed(), changed_->isChecked()};
    for (Card* c : cards_)
        c->setFilter(filter_);
}
} // namespace hygros::app
