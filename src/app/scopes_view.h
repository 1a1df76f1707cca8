#pragma once
/// The Bench page of scopes: the picture small, on which a region is drawn, its waveform, its histogram, and every
/// pixel by its distance and its tone.
#include "app/session.h"

#include <QWidget>

namespace hygros::app {

class ScopesView : public QWidget {
    Q_OBJECT
public:
    explicit ScopesView(Session& session, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 170}; }
    /// Where the small picture lies; a region is dragged on it, a double-click takes the whole.
    QRectF small() const;

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    std::array<QRectF, 3> charts() const;
    void drawWaveform(QPainter& p, const QRectF& area, const reading::Scopes& scopes, bool levels);
    void drawHistogram(QPainter& p, const QRectF& area);
    /// Of what the picture is held against, as it is shown; nothing measured where it is held against nothing.
    const reading::Scopes& other();
    void drawByDistance(QPainter& p, const QRectF& area);
    void setRegion(const QPointF& a, const QPointF& b);
    Session& session_;
    QPointF from_{-1, -1}, cursor_{-1, -1};
    reading::Scopes other_;
    std::pair<qint64, reading::Region> otherOf_{-1, {}};
};
} // namespace hygros::app
