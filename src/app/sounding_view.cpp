#include "app/sounding_view.h"

#include "app/theme.h"
#include "app/words.h"
#include "reading/why.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <cmath>

namespace hygros::app {
namespace {
constexpr double legendWidth = 250;
double brightness(const Vec3& c) { return double(luminance(c)); }
/// Elements of one family are told apart by lightness.
QColor shade(const QColor& hue, int index)
{
    return index % 3 == 0 ? hue : index % 3 == 1 ? hue.lighter(128) : hue.darker(135);
}
} // namespace

SoundingView::SoundingView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setObjectName("sounding");
    setAccessibleName(say("Sounding"));
    setMouseTracking(true);
    copy_ = new QPushButton(say("Copy the numbers"), this);
    copy_->setObjectName("copySounding");
    copy_->setToolTip(say("Comma-separated values, a line for each distance."));
    remove_ = new QPushButton(say("Remove the pin"), this);
    remove_->setObjectName("removePin");
    connect(copy_, &QPushButton::clicked, this, &SoundingView::copyTable);
    connect(remove_, &QPushButton::clicked, this,
            [this] { session_.readings().removePin(session_.readings().chosenPin()); });
    const auto tab = [&](const QString& text, const char* name, const QString& tip, bool why) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(name);
        b->setToolTip(tip);
        b->setCheckable(true);
        b->setStyleSheet(QString("QPushButton{background:transparent;border:none;border-bottom:2px solid transparent;"
                                 "color:%1;padding:2px 6px}QPushButton:focus{border-bottom-color:%2}"
                                 "QPushButton:checked{color:%3;border-bottom-color:%4}QPushButton:focus{color:%4}")
                             .arg(Theme::now().quiet.name(), Theme::now().quiet.name(), Theme::now().text.name(),
                                  Theme::now().accent.name()));
        connect(b, &QPushButton::clicked, this, [this, why] { setWhy(why); });
        return b;
    };
    along_ = tab(say("Along the sight"), "soundingAlong", say("Light and transmittance by distance"), false);
    why_ = tab(say("Why so dark, or bright"), "soundingWhy",
               say("What gives this pixel light and what takes it, in stops"), true);
    setWhy(false);
    copy_->hide();
    remove_->hide();
    connect(&session.readings(), &Readings::readingsChanged, this, [this] {
        const render::Sounding* s = session_.readings().sounding();
        copy_->setVisible(s && s->known());
        remove_->setVisible(session_.readings().chosenPin() >= 0);
        update();
    });
}

QRectF SoundingView::plot() const { return QRectF(52, 34, width() - 52 - legendWidth - 28, height() - 64); }

double SoundingView::xOf(double d) const
{
    // From the eye on: even near it, logarithmic far away.
    const render::Sounding* s = session_.readings().sounding();
    const double end = std::log1p(double(s && s->known() ? std::min(s->depth, 30000.f) : 1000.f) / 2.0);
    return plot().left() + std::log1p(d / 2.0) / end * plot().width();
}

void SoundingView::setWhy(bool why)
{
    isWhy_ = why;
    along_->setChecked(!why);
    why_->setChecked(why);
    update();
}

void SoundingView::copyTable()
{
    if (const render::Sounding* s = session_.readings().sounding(); s && s->known())
        QGuiApplication::clipboard()->setText(QString::fromStdString(s->csv()));
}

void SoundingView::resizeEvent(QResizeEvent*)
{
    copy_->adjustSize();
    remove_->adjustSize();
    copy_->move(width() - static_cast<int>(legendWidth), height() - copy_->height() - 8);
    remove_->move(copy_->geometry().right() + 8, copy_->y());
    along_->adjustSize();
    why_->adjustSize();
    along_->move(46, 4);
    why_->move(along_->geometry().right() + 10, 4);
}

void SoundingView::mouseMoveEvent(QMouseEvent* e)
{
    cursor_ = e->position();
    update();
}

void SoundingView::leaveEvent(QEvent*)
{
    cursor_ = {-1, -1};
    update();
}

void SoundingView::paintEvent(QPaintEvent*)
{
    const Theme& t = Theme::now();
    QPainter p(this);
    p.fillRect(rect(), t.panel);
    const render::Sounding* s = session_.readings().sounding();
    if (!s || !s->known()) {
        p.setPen(t.quiet);
        p.setFont(textFont(12));
        p.drawText(rect().adjusted(40, 0, -40, 0), Qt::AlignCenter | Qt::TextWordWrap,
                   session_.readings().pins().empty()
                       ? say("Click in the Picture to drop a pin: its line of sight is sounded here.")
                       : say("The pin is sounded with the next picture."));
        return;
    }
    if (isWhy_)
        return paintWhy(p, *s);
    const QRectF r = plot();
    p.fillRect(r, QColor("#1a1c1e"));
    // The eye's distances.
    p.setFont(figureFont(10));
    for (const double d :
         {0.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0, 500.0, 1000.0, 2000.0, 5000.0, 10000.0, 20000.0}) {
        if (xOf(d) > r.right() + 1)
            break;
        p.setPen(QColor(255, 255, 255, 26));
        p.drawLine(QPointF(xOf(d), r.top()), QPointF(xOf(d), r.bottom()));
        p.setPen(t.quiet);
        const bool room = d == 0.0 || std::fmod(std::log10(d) + 1e-9, 1.0) < 1e-6 || r.width() > 560;
        if (room)
            p.drawText(QRectF(xOf(d) - 30, r.bottom() + 6, 60, 14), Qt::AlignCenter,
                       d == 0.0 ? say("eye") : QString::fromStdString(formatQuantity(d, Quantity::Length)));
    }
    p.drawText(QRectF(r.left() - 48, r.top() - 6, 42, 14), Qt::AlignRight, "T 1");
    p.drawText(QRectF(r.left() - 48, r.bottom() - 8, 42, 14), Qt::AlignRight, "T 0");
    const std::size_t n = s->distance.size();
    const auto x = [&](std::size_t i) { return xOf(double(std::min(s->distance[i], 30000.f))); };
    p.setRenderHint(QPainter::Antialiasing);
    const auto curve = [&](const auto& y, const QColor& c, double width, Qt::PenStyle style = Qt::SolidLine) {
        QPainterPath path;
        for (std::size_t i = 0; i < n; ++i)
            i ? path.lineTo(x(i), y(i)) : path.moveTo(x(i), y(i));
        p.setPen(QPen(c, width, style));
        p.setBrush(Qt::NoBrush);
        p.drawPath(path);
    };
    // Light gained, as parts of all that is gained.
    const double most = std::max(1e-12, brightness(s->airLight()));
    struct Row {
        QString name, value;
        QColor colour;
        bool dotted;
    };
    std::vector<Row> rows;
    const std::size_t at = [&] {
        if (!r.contains(cursor_))
            return n - 1;
        std::size_t i = 0;
        while (i + 1 < n && x(i + 1) <= cursor_.x())
            ++i;
        return i;
    }();
    const auto nameOf = [&](const std::string& id) {
        const scene::Element* e = session_.project().find(id);
        return e ? QString::fromStdString(e->name) : QString::fromStdString(id);
    };
    const auto percent = [&](const Vec3& light) { return figure(100.0 * brightness(light) / most, 0) + " %"; };
    int index = 0;
    for (const auto& e : s->elements) {
        const QColor c = shade(familyHue(scene::Family::Air), index++);
        curve([&](std::size_t i) { return r.bottom() - brightness(e.light[i]) / most * r.height(); }, c, 1.6);
        rows.push_back(
            {nameOf(e.id), percent(e.light[at]) + "   " + figures(double(e.extinction[at]), 2) + " /m", c, false});
    }
    index = 0;
    for (const auto& l : s->lamps) {
        const QColor c = shade(familyHue(scene::Family::Lights), index++);
        curve([&](std::size_t i) { return r.bottom() - brightness(l.light[i]) / most * r.height(); }, c, 1.6,
              Qt::DashLine);
        rows.push_back({nameOf(l.id), percent(l.light[at]), c, true});
    }
    curve([&](std::size_t i) { return r.bottom() - double(s->transmittance[i]) * r.height(); }, QColor(0, 0, 0, 120),
          3.2);
    curve([&](std::size_t i) { return r.bottom() - double(s->transmittance[i]) * r.height(); }, QColor("#f2f2f0"), 1.6);
    if (r.contains(cursor_)) {
        p.setPen(QPen(QColor(255, 255, 255, 90), 1, Qt::DotLine));
        p.drawLine(QPointF(x(at), r.top()), QPointF(x(at), r.bottom()));
    }
    // Legend with the values at the cursor, else at the end.
    const double left = width() - legendWidth;
    double y = 10;
    p.setFont(textFont(12, QFont::DemiBold));
    p.setPen(t.text);
    const QString where = s->distance[at] >= 29000.f
                              ? say("to the sky")
                              : say("to ") +
                                    QString::fromStdString(formatQuantity(double(s->distance[at]), Quantity::Length));
    p.drawText(QRectF(left, y, legendWidth - 12, 16), Qt::AlignLeft | Qt::AlignVCenter, where);
    p.setFont(figureFont(12));
    p.drawText(QRectF(left, y, legendWidth - 12, 16), Qt::AlignRight | Qt::AlignVCenter,
               "T " + figure(double(s->transmittance[at]), 3));
    y += 20;
    for (const Row& row : rows) {
        if (y > height() - 56)
            break;
        p.setPen(QPen(row.colour, 2, row.dotted ? Qt::DashLine : Qt::SolidLine));
        p.drawLine(QPointF(left, y + 8), QPointF(left + 16, y + 8));
        p.setPen(t.text);
        p.setFont(figureFont(11));
        const double valueWidth = QFontMetricsF(p.font()).horizontalAdvance(row.value) + 6;
        p.drawText(QRectF(left, y, legendWidth - 12, 16), Qt::AlignRight | Qt::AlignVCenter, row.value);
        p.setFont(textFont(11));
        p.setPen(t.quiet);
        p.drawText(QRectF(left + 22, y, legendWidth - 34 - valueWidth, 16), Qt::AlignLeft | Qt::AlignVCenter,
                   QFontMetrics(p.font()).elidedText(row.name, Qt::ElideRight,
                                                     static_cast<int>(legendWidth - 34 - valueWidth)));
        y += 17;
    }
}

void SoundingView::paintWhy(QPainter& p, const render::Sounding& s) const
{
    const Theme& t = Theme::now();
    const reading::Why why = reading::whyOf(s, [this](const std::string& id) {
        const scene::Element* e = session_.project().find(id);
        return e ? e->name : id;
    });
    const auto stops = [](double v) {
        return std::isinf(v) ? say("all of it") : say("%1 stops").arg(figure(v, std::abs(v) < 9.95 ? 2 : 1));
    };
    const double half = (width() - 60.0) / 2.0, top = 32.0, line = 18.0;
    const auto column = [&](double x, const QString& head, const std::vector<reading::Reason>& all, bool gives) {
        p.setFont(textFont(12, QFont::DemiBold));
        p.setPen(t.text);
        p.drawText(QRectF(x, top, half, line), Qt::AlignLeft | Qt::AlignVCenter, head);
        double y = top + line + 3.0, most = 1e-9;
        for (const reading::Reason& r : all)
            most = std::max(most, gives ? r.share : std::min(12.0, -r.stops));
        for (const reading::Reason& r : all) {
            if (y > height() - 64)
                break;
            const scene::Element* e = session_.project().find(r.element);
            const double barAt = x + half * 0.48, barRoom = half * 0.17,
                         bar = barRoom * (gives ? r.share : std::min(12.0, -r.stops)) / most;
            p.fillRect(QRectF(barAt, y + 5, std::max(1.0, bar), 7),
                       e ? familyHue(e->kind->family) : familyHue(scene::Family::Finish));
            p.setFont(textFont(12));
            p.setPen(t.text);
            p.drawText(QRectF(x, y, half * 0.47, line), Qt::AlignLeft | Qt::AlignVCenter,
                       QFontMetrics(p.font()).elidedText(QString::fromStdString(r.text), Qt::ElideRight,
                                                         static_cast<int>(half * 0.47)));
            p.setFont(figureFont(11));
            p.drawText(QRectF(barAt + barRoom, y, half * 0.35 - 10, line), Qt::AlignRight | Qt::AlignVCenter,
                       (gives ? QString("%1 %   ").arg(figure(100.0 * r.share, r.share < 0.0995 ? 1 : 0)) : QString()) +
                           stops(r.stops));
            y += line;
        }
        if (all.empty()) {
            p.setFont(textFont(12));
            p.setPen(t.quiet);
            p.drawText(QRectF(x, y, half, line), Qt::AlignLeft | Qt::AlignVCenter,
                       gives ? say("No light comes from here.") : say("Nothing stands before it."));
        }
    };
    column(20, say("Gives light, and what it would be darker without"), why.gives, true);
    column(40 + half, say("Takes light from what is behind"), why.takes, false);
    // Against the picture, where that is known, and lights that one would look for in vain.
    QStringList words;
    if (const double mean = session_.picture().state().light; mean > 0.0 && why.luminance > 0.0) {
        const double by = std::log2(why.luminance / mean);
        words << say("This pixel is %1 stops %2 the picture's mean.")
                     .arg(figure(std::abs(by), 1))
                     .arg(by < 0 ? say("under") : say("over"));
    }
    for (const std::string& n : why.nothing)
        words << QString::fromStdString(n) + ".";
    p.setFont(textFont(11));
    p.setPen(t.quiet);
    p.drawText(QRectF(20, height() - 42, width() - legendWidth - 40, 36), Qt::AlignLeft | Qt::TextWordWrap,
               words.join(" "));
}
} // namespace hygros::app
