#include "app/selection.h"

#include <algorithm>
#include <utility>

namespace hygros::app {

void Selection::setHovered(const std::string& element)
{
    if (std::exchange(hovered_, element) != element)
        Q_EMIT hoveredChanged();
}

void Selection::setSelected(const std::string& element)
{
    setChosen(element.empty() ? std::vector<std::string>() : std::vector{element});
}

bool Selection::isChosen(const std::string& element) const
{
    return std::find(chosen_.begin(), chosen_.end(), element) != chosen_.end();
}

void Selection::setChosen(std::vector<std::string> elements)
{
    const std::string last = elements.empty() ? std::string() : elements.back();
    if (elements == chosen_ && last == selected_)
        return;
    chosen_ = std::move(elements);
    selected_ = last;
    Q_EMIT hoveredChanged();
    Q_EMIT chosenChanged();
}

void Selection::toggle(const std::string& element)
{
    std::vector<std::string> next = chosen_;
    if (const auto at = std::find(next.begin(), next.end(), element); at != next.end())
        next.erase(at);
    else
        next.push_back(element);
    setChosen(std::move(next));
}

void Selection::setCursorPlace(const QPointF& place)
{
    if (std::exchange(cursorPlace_, place) != place)
        Q_EMIT cursorPlaceChanged();
}

void Selection::setCursorDistance(double metres)
{
    if (std::exchange(cursorDistance_, metres) != metres)
        Q_EMIT cursorDistanceChanged();
}

void Selection::begin(const Task& task)
{
    task_ = task;
    Q_EMIT taskChanged();
}

void Selection::clear()
{
    begin({});
    setSelected({});
}
} // namespace hygros::app
