#pragma once
/// The foot of the window: a scale of frames with the play head, the ends of the range, the keys of what is selected,
/// and what of it is kept as pictures.
#include "app/player.h"
#include "app/session.h"

#include <QWidget>

class QSpinBox;
class QPushButton;

namespace hygros::app {

class TimeStrip : public QWidget {
    Q_OBJECT
public:
    explicit TimeStrip(Session& session, QWidget* parent = nullptr);
    /// Higher by a bar for each element that is baked.
    QSize sizeHint() const override;

    /// The next or former key of the selected element, or of all where none is selected.
    void toKey(bool forward);
    void step(int frames);
    void toEnd(bool last);
    void askTime();
    void writeRun();
    void showBaked();
    /// Where a frame stands, and which one stands at a place [pixels of this widget].
    double xOf(double frame) const;
    double frameAt(double x) const;
    /// The scale's own rectangle; the play head runs along its upper half.
    QRect scale() const;

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    bool event(QEvent* event) override;

private:
    enum class Grip { None, Head, First, Last, Pan };
    Grip gripAt(const QPoint& place) const;
    /// Keyed frames of what is selected.
    std::vector<double> keys() const;
    void showAll();
    void pull();
    void drawKeys(QPainter& p) const;
    void drawScale(QPainter& p) const;
    void drawBaked(QPainter& p) const;

    Session& session_;
    QSpinBox* frame_;
    QPushButton *play_, *record_, *keep_;
    int leftWidth_ = 292;            ///< of what stands before the scale
    double from_ = 1.0, to_ = 100.0; ///< frames shown
    bool zoomed_ = false;
    Grip grip_ = Grip::None;
    double panFrom_ = 0.0;
};
} // namespace hygros::app
