#include "app/status_line.h"

#include "app/checks_panel.h"
#include "app/picture_zoom.h"
#include "app/theme.h"
#include "app/words.h"

#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <cmath>

namespace hygros::app {

StatusLine::StatusLine(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setObjectName("status");
    setFixedSize(sizeHint());
    panel_ = new ChecksPanel(session, this);
    checks_ = new QPushButton(this);
    checks_->setObjectName("checks");
    checks_->setCursor(Qt::PointingHandCursor);
    checksWide_ = std::max(checksWide_,
                           QFontMetrics(checks_->font()).horizontalAdvance(say("Checks · %1").arg(99)) + 32);
    checks_->setGeometry(width() - checksWide_, 2, checksWide_ - 6, height() - 4);
    checks_->setStyleSheet(QString("QPushButton{border:1px solid %1;background:transparent;color:%2;padding:0 8px}"
                                   "QPushButton:hover,QPushButton:focus{border-color:%3}")
                               .arg(Theme::now().rule.name(), Theme::now().text.name(), Theme::now().accent.name()));
    const auto tell = [this] {
        const std::size_t n = session_.checks().count();
        checks_->setText(n == 0 ? say("Checks") : say("Checks · %1").arg(n));
        checks_->setToolTip(n == 0 ? say("All is well")
                                   : say("What has no effect, or hardly looks as meant, and what mends it"));
    };
    tell();
    connect(&session.checks(), &Checks::changed, this, tell);
    connect(checks_, &QPushButton::clicked, this,
            [this] { panel_->openAt(checks_->mapToGlobal(QPoint(checks_->width(), checks_->height() + 3))); });
    connect(&session.picture(), &Picture::pictureChanged, this, qOverload<>(&QWidget::update));
    connect(&session.jobs(), &Jobs::changed, this, qOverload<>(&QWidget::update));
    timer_.setInterval(200);
    connect(&session.picture(), &Picture::staled, &timer_, qOverload<>(&QTimer::start));
    connect(&timer_, &QTimer::timeout, this, [this] {
        if (session_.picture().freezer().isIdle())
            timer_.stop();
        update();
    });
}

std::vector<StatusLine::Work> StatusLine::work() const
{
    std::vector<Work> all;
    for (const Jobs::State& job : session_.jobs().states())
        all.push_back({job.name + (job.message.isEmpty() ? QString() : " · " + job.message), job.progress,
                       [this, id = job.id] { session_.jobs().cancel(id); }});
    Freezer& freezer = session_.picture().freezer();
    constexpr double soon = 0.7; // what is done sooner is not worth a word
    if (freezer.secondsInWork() > soon)
        all.push_back({say("Preparing the picture · ") + freezer.message(), double(freezer.progress()),
                       [&freezer] { freezer.cancel(); }});
    return all;
}

void StatusLine::paintEvent(QPaintEvent*)
{
    const Theme& t = Theme::now();
    QPainter p(this);
    const QRect bar(188, height() / 2 - 3, 90, 6);
    p.fillRect(bar, t.rule);
    const auto text = [&](const QString& s, const QRect& r, const QColor& c = Theme::now().quiet) {
        p.setPen(c);
        p.drawText(r, Qt::AlignVCenter | Qt::AlignLeft,
                   QFontMetrics(p.font()).elidedText(s, Qt::ElideRight, r.width()));
    };
    const QRect right(288, 0, width() - 292 - checksWide_, height());
    p.setFont(textFont(13, QFont::DemiBold));
    text(QString::fromStdString(session_.project().name) + (session_.document().hasUnsavedChanges() ? " ·" : ""),
         QRect(0, 0, 176, height()), t.text);
    if (const auto all = work(); !all.empty()) {
        p.fillRect(QRect(bar.left(), bar.top(), static_cast<int>(bar.width() * all.front().share), bar.height()),
                   t.accent);
        p.setFont(textFont(11));
        const QString more = all.size() > 1 ? say("%1 tasks: ").arg(all.size()) : QString();
        text(more + all.front().name, right.adjusted(0, 0, -64, 0));
        text(all.size() > 1 ? say("Cancel…") : say("Cancel"), cancelRect(), t.accent);
        return;
    }
    const PictureState& s = session_.picture().state();
    if (s.wanted > 0)
        p.fillRect(QRect(bar.left(), bar.top(), bar.width() * std::min(s.samples, s.wanted) / s.wanted, bar.height()),
                   s.clean ? t.quiet : t.accent);
    p.setFont(figureFont(11));
    const Picture& picture = session_.picture();
    const QString size = picture.fineness() > 1 && picture.zoom() == 0
                             ? " · " + PictureZoom::finenessName(picture.fineness()).toLower()
                             : QString();
    if (s.wanted == 0)
        text(say("first picture…"), right);
    else if (s.clean)
        text(say("clean · %1 samples").arg(s.samples) + size, right);
    else
        text(say("%1 of %2 samples · %3 s to clean")
                     .arg(s.samples)
                     .arg(s.wanted)
                     .arg(figure(s.secondsLeft, s.secondsLeft < 3.0 ? 1 : 0)) +
                 size,
             right);
}

void StatusLine::mousePressEvent(QMouseEvent* e)
{
    const auto all = work();
    if (all.empty() || !cancelRect().contains(e->pos()))
        return;
    if (all.size() == 1)
        return all.front().cancel();
    QMenu menu(this);
    for (const Work& w : all)
        menu.addAction(say("Cancel: %1 (%2 %)").arg(w.name).arg(std::lround(w.share * 100.0)), this, w.cancel);
    menu.exec(e->globalPosition().toPoint());
}
} // namespace hygros::app
