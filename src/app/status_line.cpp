#include "app/status_line.h"

#include "app/theme.h"

#include <QMouseEvent>
#include <QPainter>
#include <QSpinBox>

namespace hygros::app {

StatusLine::StatusLine(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setObjectName("status");
    setFixedSize(sizeHint());
    frame_ = new QSpinBox(this);
    frame_->setObjectName("frame");
    frame_->setRange(-100000, 1000000);
    frame_->setPrefix("frame ");
    frame_->setFont(figureFont(11));
    frame_->setFrame(false);
    frame_->setButtonSymbols(QAbstractSpinBox::NoButtons);
    frame_->setStyleSheet(QString("QSpinBox{background:transparent;color:%1}QSpinBox:focus{color:%2}")
                              .arg(Theme::now().quiet.name(), Theme::now().accent.name()));
    frame_->setGeometry(252, 3, 90, 20);
    frame_->setToolTip("The frame shown: noise drifts with it. Arrow keys step.");
    frame_->setKeyboardTracking(false);
    connect(frame_, &QSpinBox::valueChanged, this, [this](int f) {
        if (f != session_.project().frame)
            session_.edit(
                "Frame", [f](scene::Project& p) { p.frame = f; }, "frame");
    });
    connect(&session, &Session::projectChanged, this, [this] { frame_->setValue(session_.project().frame); });
    connect(&session, &Session::pictureChanged, this, qOverload<>(&QWidget::update));
    connect(&session, &Session::jobChanged, this, [this](const QString& name, double share, const QString& message) {
        job_ = name;
        jobShare_ = share;
        jobMessage_ = message;
        update();
    });
}

void StatusLine::paintEvent(QPaintEvent*)
{
    const Theme& t = Theme::now();
    QPainter p(this);
    const QRect bar(352, height() / 2 - 3, 110, 6);
    p.fillRect(bar, t.rule);
    const auto text = [&](const QString& s, const QRect& r, const QColor& c = Theme::now().quiet) {
        p.setPen(c);
        p.drawText(r, Qt::AlignVCenter | Qt::AlignLeft,
                   QFontMetrics(p.font()).elidedText(s, Qt::ElideRight, r.width()));
    };
    const QRect right(472, 0, width() - 476, height());
    p.setFont(textFont(13, QFont::DemiBold));
    text(QString::fromStdString(session_.project().name) + (session_.hasUnsavedChanges() ? " ·" : ""),
         QRect(0, 0, 240, height()), t.text);
    if (!job_.isEmpty()) {
        p.fillRect(QRect(bar.left(), bar.top(), static_cast<int>(bar.width() * jobShare_), bar.height()), t.accent);
        p.setFont(textFont(11));
        text(job_ + (jobMessage_.isEmpty() ? QString() : " · " + jobMessage_), right.adjusted(0, 0, -64, 0));
        text("Cancel", cancelRect(), t.accent);
        return;
    }
    const PictureState& s = session_.picture();
    if (s.wanted > 0)
        p.fillRect(QRect(bar.left(), bar.top(), bar.width() * std::min(s.samples, s.wanted) / s.wanted, bar.height()),
                   s.clean ? t.quiet : t.accent);
    p.setFont(figureFont(11));
    if (s.wanted == 0)
        text("first picture…", right);
    else if (s.clean)
        text(QString("clean · %1 samples").arg(s.samples), right);
    else
        text(QString("%1 of %2 samples · %3 s to clean")
                 .arg(s.samples)
                 .arg(s.wanted)
                 .arg((s.wanted - s.samples) * std::max(0.01, s.secondsPerPass), 0, 'f', 0),
             right);
}

void StatusLine::mousePressEvent(QMouseEvent* e)
{
    if (!job_.isEmpty() && cancelRect().contains(e->pos()))
        session_.cancelJob();
}
} // namespace hygros::app
