#pragma once
/// The other picture over the Picture: the line between both, their difference, side by side; and the bar that chooses.
#include "app/session.h"

#include <QWidget>
#include <array>

class QLabel;
class QPainter;
class QPushButton;

namespace hygros::app {

class PictureCompare : public QObject {
    Q_OBJECT
public:
    PictureCompare(Session& session, QWidget& over);
    /// Draws it; true where what lies over a picture alone (aids, handles) has no place.
    bool paint(QPainter& p, const QRect& into, const QImage& shown);
    /// Whether a place is on the line or on a grip of it.
    bool isAt(const QPointF& place) const { return gripAt(place) != Grip::None; }
    bool press(const QPointF& place);
    void drag(const QPointF& place);
    bool release();
    bool isHeld() const { return held_ != Grip::None; }
    void place();
    /// Where the line is taken to be moved, and to be turned.
    QPointF movingGrip() const;
    QPointF turningGrip() const;

private:
    enum class Grip { None, Move, Turn };
    Grip gripAt(const QPointF& place) const;
    QPointF along() const;
    void label(QPainter& p, const QPointF& at, const QString& text, bool rightAligned) const;
    QString nowWords() const;
    void tell();
    Session& session_;
    QWidget& over_;
    Grip held_ = Grip::None;
    QWidget* bar_;
    QLabel* text_;
    std::array<QPushButton*, 4> ways_{};
    QPushButton *less_, *more_;
    // The last difference, and of what it is.
    QImage difference_;
    qint64 ofShown_ = 0, ofOther_ = 0;
    double ofScale_ = 0.0, mean_ = 0.0;
};
} // namespace hygros::app
