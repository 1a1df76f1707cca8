/// The table as it is drawn.
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

void ReachView::paintEvent(QPaintEvent*)
{
    const Theme& t = Theme::now();
    QPainter p(viewport());
    p.fillRect(viewport()->rect(), t.panel);
    if (rows_.empty() || columns_.empty()) {
        p.setPen(t.quiet);
        p.setFont(textFont(12));
        p.drawText(viewport()->rect().adjusted(40, 0, -40, 0), Qt::AlignCenter | Qt::TextWordWrap,
                   rows_.empty() ? say("There is no light yet: add one from the Lights.")
                                 : say("There is nothing to light yet: add air or bring a set."));
        return;
    }
    const int right = std::min(viewport()->width() - costWidth,
                               nameWidth + static_cast<int>(columns_.size()) * cellWidth),
              bottom = viewport()->height() - rowHeight;
    p.setRenderHint(QPainter::Antialiasing);
    p.save();
    p.setClipRect(QRect(nameWidth, headHeight, right - nameWidth, bottom - headHeight));
    for (int r = 0; r < static_cast<int>(rows_.size()); ++r)
        for (int c = 0; c < static_cast<int>(columns_.size()); ++c) {
            const QRect cell = cellRect(r, c);
            const Row& row = rows_[static_cast<std::size_t>(r)];
            const Column& column = columns_[static_cast<std::size_t>(c)];
            const bool silent = row.silent || column.silent, chosen = hasFocus() && chosen_ == Cell{r, c};
            const double s = strength({r, c});
            if (pointed_ == Cell{r, c} || pointed_.row == r || pointed_.column == c)
                p.fillRect(cell, pointed_ == Cell{r, c} ? t.raised : t.panel.lighter(108));
            // A ray from the left that ends where the light is kept out, and goes through as far as it is strong.
            QColor ink = silent ? t.faint : familyHue(scene::Family::Lights);
            const double y = cell.center().y() + 0.5, from = cell.left() + 10.0, to = cell.right() - 34.0;
            p.setPen(QPen(t.rule, 1));
            p.drawLine(QPointF(from, y), QPointF(to, y));
            if (s > 0.0) {
                p.setPen(QPen(ink, 3));
                p.drawLine(QPointF(from, y), QPointF(from + (to - from) * std::min(1.0, s / 2.0), y));
            } else {
                p.setPen(QPen(silent ? t.faint : t.text, 1.5));
                p.drawLine(QPointF(from, y - 5), QPointF(from, y + 5));
            }
            p.setFont(figureFont(11));
            p.setPen(silent ? t.faint : s == 1.0 ? t.quiet : t.text);
            const QString text = chosen && !entry_.isEmpty() ? entry_ + "_"
                                 : s == 0.0                  ? say("off")
                                 : s == 1.0                  ? "1"
                                                             : figure(s);
            p.drawText(QRect(cell.right() - 34, cell.top(), 30, cell.height()), Qt::AlignRight | Qt::AlignVCenter,
                       text);
            if (chosen) {
                p.setPen(QPen(t.accent, 1));
                p.setBrush(Qt::NoBrush);
                p.drawRect(QRectF(cell).adjusted(1.5, 1.5, -1.5, -1.5));
            }
        }
    p.restore();
    p.setRenderHint(QPainter::Antialiasing, false);
    // Names of the rows and what they cost.
    p.save();
    p.setClipRect(QRect(0, headHeight, viewport()->width(), bottom - headHeight));
    for (int r = 0; r < static_cast<int>(rows_.size()); ++r) {
        const Row& row = rows_[static_cast<std::size_t>(r)];
        const QRect cell = cellRect(r, -1);
        const bool lit = session_.selection().hovered() == row.element;
        p.setFont(textFont(12, lit ? QFont::DemiBold : QFont::Normal));
        p.setPen(row.silent ? t.faint : t.text);
        p.drawText(cell.adjusted(12, 0, -8, 0), Qt::AlignLeft | Qt::AlignVCenter,
                   p.fontMetrics().elidedText(row.name, Qt::ElideMiddle, cell.width() - 20));
        p.setFont(figureFont(11));
        p.setPen(t.quiet);
        // Sun and sky are lit by one march.
        if (row.prefix.empty())
            p.drawText(QRect(viewport()->width() - costWidth, cell.top(), costWidth - 10, cell.height()),
                       Qt::AlignRight | Qt::AlignVCenter, row.silent ? say("muted") : costText(row.element));
        p.setPen(t.rule);
        p.drawLine(12, cell.bottom(), viewport()->width() - 10, cell.bottom());
    }
    p.restore();
    p.save();
    p.setClipRect(QRect(nameWidth, 0, right - nameWidth, viewport()->height()));
    for (int c = 0; c < static_cast<int>(columns_.size()); ++c) {
        const Column& column = columns_[static_cast<std::size_t>(c)];
        const QRect cell = cellRect(-1, c);
        p.fillRect(QRect(cell.left() + 10, headHeight - 4, cellWidth - 20, 2),
                   familyHue(column.air ? scene::Family::Air : scene::Family::Set));
        p.setFont(textFont(12));
        p.setPen(column.silent ? t.faint : t.text);
        p.drawText(cell.adjusted(column.object ? 18 : 10, 0, column.holds ? -22 : -8, -6),
                   Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap,
                   p.fontMetrics().elidedText(column.name, Qt::ElideMiddle, 2 * (cellWidth - 24)));
        p.setRenderHint(QPainter::Antialiasing);
        p.setPen(QPen(t.quiet, 1.5));
        if (column.holds) { // its objects: shown beside it, or not
            const QPointF at(cell.right() - 12, (headHeight - 6) / 2.0);
            const double side = column.open ? -1.0 : 1.0;
            p.drawPolyline(
                QPolygonF{at + QPointF(-2 * side, -4), at + QPointF(2 * side, 0), at + QPointF(-2 * side, 4)});
        } else if (column.object) {
            const QPointF at(cell.left() + 12, (headHeight - 6) / 2.0);
            p.drawLine(at + QPointF(0, -5), at + QPointF(0, 5));
        }
        p.setRenderHint(QPainter::Antialiasing, false);
        p.setFont(figureFont(10));
        p.setPen(t.quiet);
        if (column.air)
            p.drawText(QRect(cell.left(), bottom, cellWidth - 4, rowHeight), Qt::AlignRight | Qt::AlignVCenter,
                       column.silent ? say("muted") : costText(column.id));
    }
    p.restore();
    p.setFont(textFont(11));
    p.setPen(t.quiet);
    p.drawText(QRect(12, 0, nameWidth - 16, headHeight - 6), Qt::AlignLeft | Qt::AlignVCenter, say("light on …"));
    p.drawText(QRect(viewport()->width() - costWidth, 0, costWidth - 10, headHeight - 6),
               Qt::AlignRight | Qt::AlignVCenter | Qt::TextWordWrap, say("share of a pass"));
    p.drawText(QRect(12, bottom, nameWidth - 16, rowHeight), Qt::AlignLeft | Qt::AlignVCenter, say("share of a pass"));
}
} // namespace hygros::app
