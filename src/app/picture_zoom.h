#pragma once
/// How large the Picture is shown, which part of it, a region that alone is drawn, and the values of the pixel under
/// the cursor.
#include "app/session.h"

#include <QWidget>
#include <array>

class QPainter;
class QPushButton;

namespace hygros::app {

class PictureZoom : public QObject {
    Q_OBJECT
public:
    PictureZoom(Session& session, QWidget& over);
    /// The buttons end at `right`.
    void place(int right);
    void setShown(bool shown);
    /// The next larger or smaller one; what is under the place stays there.
    void step(int by, const QPointF& at);
    void set(int times);
    /// Names of Picture::fineness(): "full size", …
    static QString finenessName(int pixels);
    static constexpr std::array finenesses{1, 2, 4};
    bool showsValues() const { return values_; }
    void setShowsValues(bool shown);

    /// Dims what lies around a region, and its frame.
    void paintRegion(QPainter& p) const;
    /// The map of the whole, and the pixel's values.
    void paint(QPainter& p) const;
    /// What the values of the pixel under the cursor are in words; empty while there is none.
    QString valueText() const;
    QRect map() const;
    bool press(const QPointF& place, Qt::MouseButton button);
    bool drag(const QPointF& place);
    bool release();
    /// Where a place of the whole picture stands in the widget.
    QPointF placeOf(const QPointF& whole) const;

private:
    enum class Held { None, Map, Part, Region };
    void moveTo(const QPointF& mapPlace);
    Session& session_;
    QWidget& over_;
    std::array<QPushButton*, 4> times_{};
    QPushButton* fineness_;
    QPushButton* all_;
    Held held_ = Held::None;
    QPointF last_, first_;
    bool values_ = false;
    int right_ = 0;
};
} // namespace hygros::app
