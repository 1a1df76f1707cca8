#include "app/reach_view.h"

#include "app/theme.h"
#include "app/words.h"

#include <QClipboard>
#include <QContextMenuEvent>
#include <QGuiApplication>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QScrollBar>
#include <cmath>

namespace hygros::app {
ReachView::ReachView(Session& session, QWidget* parent) : QAbstractScrollArea(parent), session_(session)
{
    setProperty("ownKeys", true);
    setObjectName("reach");
    setAccessibleName(say("Reach"));
    setFrameShape(QFrame::NoFrame);
    setFocusPolicy(Qt::StrongFocus);
    viewport()->setMouseTracking(true);
    setToolTip(
        say("Click a cell to turn a light off or on there; drag it up or down, or type a number, for its strength."));
    connect(&session.document(), &Document::projectChanged, this, [this] {
        gather();
        viewport()->update();
    });
    connect(&session.picture(), &Picture::shotChanged, this, [this] { // objects of a set that has just come in
        gather();
        viewport()->update();
    });
    connect(&session.picture(), &Picture::costsChanged, viewport(), qOverload<>(&QWidget::update));
    connect(&session.selection(), &Selection::hoveredChanged, viewport(), qOverload<>(&QWidget::update));
    gather();
}

void ReachView::gather()
{
    rows_.clear();
    columns_.clear();
    const scene::Project& project = session_.project();
    for (const scene::Element& e : project.elements) {
        const QString name = QString::fromStdString(e.name);
        const bool silent = project.silent(e);
        const elements::Kind& kind = elements::kindOf(e);
        const bool twice = kind.row == elements::Kind::Row::LightAndSky;
        if (kind.row != elements::Kind::Row::None)
            rows_.push_back({e.id, "", twice ? name + say(": sun") : name, silent});
        if (twice)
            rows_.push_back({e.id, "sky/", name + say(": sky"), silent});
        if (kind.column == elements::Kind::Column::Air)
            columns_.push_back({e.id, name, true, silent});
    }
    for (const scene::Element& e : project.elements)
        if (elements::kindOf(e).column == elements::Kind::Column::Objects) {
            // Its objects stand beside it where they are asked for.
            std::vector<std::string> objects;
            if (const auto shot = session_.picture().shot())
                for (const std::string& id : shot->setIds)
                    if (id.starts_with(e.id + "/"))
                        objects.push_back(id);
            const bool open = opened_.count(e.id) > 0;
            columns_.push_back(
                {e.id, QString::fromStdString(e.name), false, project.silent(e), !objects.empty(), open});
            for (const std::string& id : objects)
                if (open || hasReach(id))
                    columns_.push_back({id, QString::fromStdString(id.substr(e.id.size() + 1)), false,
                                        project.silent(e), false, false, true});
        }
    chosen_.row = std::clamp(chosen_.row, 0, std::max(0, static_cast<int>(rows_.size()) - 1));
    chosen_.column = std::clamp(chosen_.column, 0, std::max(0, static_cast<int>(columns_.size()) - 1));
    resizeEvent(nullptr);
}

bool ReachView::hasReach(const std::string& target) const
{
    const auto& all = session_.project().elements;
    return std::any_of(all.begin(), all.end(), [&](const scene::Element& e) {
        return e.reach.count(target) || e.reach.count("sky/" + target);
    });
}

void ReachView::openObjects(const std::string& set)
{
    if (!opened_.erase(set))
        opened_.insert(set);
    gather();
    viewport()->update();
}

QPoint ReachView::objectsPosition(const std::string& set) const
{
    for (std::size_t c = 0; c < columns_.size(); ++c)
        if (columns_[c].id == set)
            return QPoint(cellRect(-1, static_cast<int>(c)).right() - 10, headHeight / 2);
    return {};
}

void ReachView::resizeEvent(QResizeEvent*)
{
    const int wide = static_cast<int>(columns_.size()) * cellWidth, high = static_cast<int>(rows_.size()) * rowHeight;
    horizontalScrollBar()->setRange(0, std::max(0, wide - (viewport()->width() - nameWidth - costWidth)));
    horizontalScrollBar()->setPageStep(viewport()->width() - nameWidth - costWidth);
    horizontalScrollBar()->setSingleStep(cellWidth / 2);
    verticalScrollBar()->setRange(0, std::max(0, high - (viewport()->height() - headHeight - rowHeight)));
    verticalScrollBar()->setPageStep(viewport()->height() - headHeight - rowHeight);
    verticalScrollBar()->setSingleStep(rowHeight);
}

QRect ReachView::cellRect(int row, int column) const
{
    const int x = column < 0 ? 0 : nameWidth + column * cellWidth - horizontalScrollBar()->value();
    const int y = row < 0 ? 0 : headHeight + row * rowHeight - verticalScrollBar()->value();
    return {x, y, column < 0 ? nameWidth : cellWidth, row < 0 ? headHeight : rowHeight};
}

std::optional<ReachView::Cell> ReachView::cellAt(const QPoint& p) const
{
    const int rows = static_cast<int>(rows_.size()), columns = static_cast<int>(columns_.size());
    const int column = p.x() < nameWidth ? -1 : (p.x() - nameWidth + horizontalScrollBar()->value()) / cellWidth;
    const int row = p.y() < headHeight ? -1 : (p.y() - headHeight + verticalScrollBar()->value()) / rowHeight;
    if (row >= rows || column >= columns || (row < 0 && column < 0) ||
        p.x() >= std::min(viewport()->width() - costWidth, nameWidth + columns * cellWidth) ||
        p.y() >= viewport()->height() - rowHeight)
        return std::nullopt;
    return Cell{row, column};
}

QPoint ReachView::cellPosition(const std::string& light, const std::string& target) const
{
    for (std::size_t r = 0; r < rows_.size(); ++r)
        for (std::size_t c = 0; c < columns_.size(); ++c)
            if ((light == "sky" ? rows_[r].prefix == "sky/" : rows_[r].element == light && rows_[r].prefix.empty()) &&
                columns_[c].id == target)
                return cellRect(static_cast<int>(r), static_cast<int>(c)).center();
    return {};
}
QPoint ReachView::rowNamePosition(const std::string& light) const
{
    for (std::size_t r = 0; r < rows_.size(); ++r)
        if (rows_[r].element == light && rows_[r].prefix.empty())
            return cellRect(static_cast<int>(r), -1).center();
    return {};
}
QPoint ReachView::columnNamePosition(const std::string& target) const
{
    for (std::size_t c = 0; c < columns_.size(); ++c)
        if (columns_[c].id == target)
            return cellRect(-1, static_cast<int>(c)).center();
    return {};
}

double ReachView::strength(const Cell& c) const
{
    const Row& row = rows_[static_cast<std::size_t>(c.row)];
    return session_.project().find(row.element)->reachTo(row.prefix + columns_[static_cast<std::size_t>(c.column)].id);
}

void ReachView::setStrength(const Cell& c, double value, const QString& merge)
{
    // A name stands for its whole row or column.
    std::vector<Cell> cells;
    if (c.row < 0)
        for (int r = 0; r < static_cast<int>(rows_.size()); ++r)
            cells.push_back({r, c.column});
    else if (c.column < 0)
        for (int k = 0; k < static_cast<int>(columns_.size()); ++k)
            cells.push_back({c.row, k});
    else
        cells.push_back(c);
    session_.document().edit(
        "reach",
        [&](scene::Project& next) {
            for (const Cell& cell : cells) {
                const Row& row = rows_[static_cast<std::size_t>(cell.row)];
                const scene::Value checked = scene::reachParameter().checked(value);
                next.find(row.element)
                    ->setReach(row.prefix + columns_[static_cast<std::size_t>(cell.column)].id,
                               std::get<double>(checked));
            }
        },
        merge);
}

void ReachView::toggle(const Cell& c)
{
    // A row or column that has anything on goes off.
    bool on = false;
    for (int r = 0; r < static_cast<int>(rows_.size()); ++r)
        for (int k = 0; k < static_cast<int>(columns_.size()); ++k)
            if ((c.row < 0 || c.row == r) && (c.column < 0 || c.column == k))
                on = on || strength({r, k}) > 0.0;
    setStrength(c, on ? 0.0 : 1.0);
}

void ReachView::mousePressEvent(QMouseEvent* e)
{
    const auto cell = cellAt(e->position().toPoint());
    if (!cell || e->button() != Qt::LeftButton)
        return;
    if (cell->row < 0 && cell->column >= 0 && columns_[static_cast<std::size_t>(cell->column)].holds &&
        e->position().x() > cellRect(-1, cell->column).right() - 22)
        return openObjects(columns_[static_cast<std::size_t>(cell->column)].id);
    held_ = cell;
    pressed_ = e->position().toPoint();
    dragged_ = false;
    entry_.clear();
    if (cell->row >= 0 && cell->column >= 0) {
        chosen_ = *cell;
        heldStrength_ = strength(*cell);
    } else {
        heldStrength_ = 1.0;
    }
    viewport()->update();
}

void ReachView::mouseMoveEvent(QMouseEvent* e)
{
    const QPoint at = e->position().toPoint();
    if (held_) {
        const int rise = pressed_.y() - at.y();
        if (!dragged_ && std::abs(rise) < 4)
            return;
        dragged_ = true;
        const double step = e->modifiers() & Qt::ShiftModifier ? 0.005 : 0.02;
        setStrength(*held_, std::clamp(std::round((heldStrength_ + rise * step) * 200.0) / 200.0, 0.0, 1000.0),
                    "reach");
        return;
    }
    const Cell before = pointed_;
    pointed_ = cellAt(at).value_or(Cell{});
    if (before != pointed_) {
        const bool row = pointed_.row >= 0;
        session_.selection().setHovered(row                    ? rows_[static_cast<std::size_t>(pointed_.row)].element
                                        : pointed_.column >= 0 ? columns_[static_cast<std::size_t>(pointed_.column)].id
                                                               : std::string());
        viewport()->update();
    }
}

void ReachView::mouseReleaseEvent(QMouseEvent*)
{
    if (held_ && !dragged_)
        toggle(*held_);
    if (dragged_)
        session_.document().endDrag();
    held_.reset();
}

void ReachView::mouseDoubleClickEvent(QMouseEvent* e) { mousePressEvent(e); } // two clicks are two clicks

void ReachView::wheelEvent(QWheelEvent* e)
{
    if (e->modifiers() & Qt::ShiftModifier || verticalScrollBar()->maximum() == 0)
        horizontalScrollBar()->setValue(horizontalScrollBar()->value() -
                                        (e->angleDelta().y() + e->angleDelta().x()) / 2);
    else
        QAbstractScrollArea::wheelEvent(e);
}

void ReachView::typed(const QString& text)
{
    const auto value = parseQuantity(text.toStdString(), Quantity::Plain);
    if (value)
        setStrength(chosen_, *value);
}

void ReachView::keyPressEvent(QKeyEvent* e)
{
    if (rows_.empty() || columns_.empty())
        return QAbstractScrollArea::keyPressEvent(e);
    const QString text = e->text();
    if (!text.isEmpty() && (text[0].isDigit() || text[0] == '.' || text[0] == ',')) {
        entry_ += text;
    } else if (e->key() == Qt::Key_Backspace) {
        entry_.chop(1);
    } else if (e->key() == Qt::Key_Escape && !entry_.isEmpty()) {
        entry_.clear();
    } else if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter) {
        typed(entry_);
        entry_.clear();
    } else if (e->key() == Qt::Key_Space) {
        toggle(chosen_);
    } else if (e->matches(QKeySequence::Copy)) {
        copyRow(chosen_.row);
    } else if (e->matches(QKeySequence::Paste)) {
        pasteRow(chosen_.row);
    } else if (e->key() == Qt::Key_Left || e->key() == Qt::Key_Right || e->key() == Qt::Key_Up ||
               e->key() == Qt::Key_Down) {
        if (!entry_.isEmpty())
            typed(entry_);
        entry_.clear();
        chosen_.column = std::clamp(chosen_.column + (e->key() == Qt::Key_Right) - (e->key() == Qt::Key_Left), 0,
                                    static_cast<int>(columns_.size()) - 1);
        chosen_.row = std::clamp(chosen_.row + (e->key() == Qt::Key_Down) - (e->key() == Qt::Key_Up), 0,
                                 static_cast<int>(rows_.size()) - 1);
    } else {
        return QAbstractScrollArea::keyPressEvent(e);
    }
    viewport()->update();
}

void ReachView::copyRow(int row)
{
    // Lines of "element strength": also of use in a message or a table.
    QStringList lines;
    for (int c = 0; c < static_cast<int>(columns_.size()); ++c)
        lines << QString::fromStdString(columns_[static_cast<std::size_t>(c)].id) + "\t" +
                     QString::number(strength({row, c}));
    QGuiApplication::clipboard()->setText(lines.join('\n') + "\n");
}

void ReachView::pasteRow(int row)
{
    const Row& to = rows_[static_cast<std::size_t>(row)];
    std::vector<std::pair<std::string, double>> strengths;
    for (const QString& line : QGuiApplication::clipboard()->text().split('\n')) {
        const QStringList parts = line.split('\t');
        bool number = false;
        const double value = parts.size() == 2 ? parts[1].toDouble(&number) : 0.0;
        const bool known = std::any_of(columns_.begin(), columns_.end(),
                                       [&](const Column& c) { return c.id == parts[0].toStdString(); });
        if (number && known)
            strengths.emplace_back(parts[0].toStdString(), value);
    }
    if (strengths.empty())
        return;
    session_.document().edit("reach", [&](scene::Project& next) {
        for (const auto& [target, value] : strengths)
            next.find(to.element)
                ->setReach(to.prefix + target, std::get<double>(scene::reachParameter().checked(value)));
    });
}

void ReachView::contextMenuEvent(QContextMenuEvent* e)
{
    const auto cell = cellAt(e->pos());
    if (!cell)
        return;
    QMenu menu(this);
    if (cell->row >= 0) {
        menu.addAction(say("Copy the row"), this, [this, cell] { copyRow(cell->row); });
        menu.addAction(say("Put the copied row here"), this, [this, cell] { pasteRow(cell->row); });
    }
    menu.addAction(say("All to 1"), this, [this, cell] { setStrength(*cell, 1.0); });
    menu.exec(e->globalPos());
}
} // namespace hygros::app
