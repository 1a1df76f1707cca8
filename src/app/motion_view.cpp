#include "app/motion_view.h"

#include "app/theme.h"
#include "app/words.h"
#include "scene/evaluate.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace hygros::app {
namespace {
constexpr double tall = 116.0, rightEdge = 66.0; ///< height of an open lane; room for its figures
constexpr double probeTall = 128.0, mostForProbe = 0.6;
} // namespace

MotionView::MotionView(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), probe_(session), frameField_(new QLineEdit(this)),
      valueField_(new QLineEdit(this)), wayField_(new QComboBox(this)), snap_(new QCheckBox(say("whole frames"), this))
{
    setObjectName("motion");
    setAccessibleName(say("Motion"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    const Theme& t = Theme::now();
    for (QLineEdit* field : {frameField_, valueField_}) {
        field->setFont(figureFont(11));
        field->setAlignment(Qt::AlignRight);
        connect(field, &QLineEdit::editingFinished, this, [this, field] { typed(field); });
    }
    frameField_->setObjectName("keyFrame");
    frameField_->setAccessibleName(say("Frame of the key"));
    frameField_->setPlaceholderText(say("frame"));
    frameField_->setToolTip(say("Frame of the chosen key; of several, that of the first: all move along."));
    valueField_->setObjectName("keyValue");
    valueField_->setAccessibleName(say("Value of the key"));
    valueField_->setPlaceholderText(say("value"));
    valueField_->setToolTip(say("Value of what is chosen, with its unit."));
    wayField_->setObjectName("keyWay");
    wayField_->addItems({say("smooth"), say("linear"), say("hold")});
    wayField_->setToolTip(say("How it goes on from the chosen keys."));
    wayField_->setFont(textFont(11));
    snap_->setObjectName("wholeFrames");
    snap_->setChecked(true);
    snap_->setFont(textFont(11));
    snap_->setStyleSheet(QString("color:%1").arg(t.quiet.name()));
    snap_->setToolTip(say("Keys that are dragged or stretched stand at whole frames."));
    connect(wayField_, &QComboBox::activated, this, [this](int way) { setWay(static_cast<scene::Way>(way)); });
    Document& d = session.document();
    connect(&d, &Document::projectChanged, this, &MotionView::pull);
    connect(&d, &Document::frameChanged, this, qOverload<>(&QWidget::update));
    connect(&session.selection(), &Selection::chosenChanged, this, [this] {
        opened_ = false;
        pull();
    });
    connect(&d, &Document::projectReplaced, this, [this] {
        zoomed_ = false;
        chosen_.clear();
        open_.clear();
        pull();
    });
    connect(&probe_, &ProbeCurve::changed, this, qOverload<>(&QWidget::update));
    pull();
}

QRectF MotionView::plot() const
{
    const double top = headerShown + scaleShown;
    return {nameWidthShown, top, std::max(40.0, width() - nameWidthShown - rightEdge),
            std::max(20.0, height() - top - 4.0 - probePlot().height())};
}
QRectF MotionView::probePlot() const
{
    const double top = headerShown + scaleShown, room = height() - top - 4.0,
                 tallest = !probe_.isOn()   ? 0.0
                           : lanes_.empty() ? room
                                            : std::min(probeTall, mostForProbe * room);
    return {nameWidthShown, height() - 4.0 - tallest, std::max(40.0, width() - nameWidthShown - rightEdge), tallest};
}
double MotionView::xOf(double frame) const
{
    const QRectF r = plot();
    return r.left() + (frame - from_) / std::max(1e-6, to_ - from_) * r.width();
}
double MotionView::frameAt(double x) const
{
    const QRectF r = plot();
    return from_ + (x - r.left()) / r.width() * (to_ - from_);
}

double MotionView::Lane::yOf(double value) const
{
    const double share = (parameter->rulerPosition(value) - low) / std::max(1e-12, high - low);
    return rect.bottom() - 8.0 - share * (rect.height() - 16.0);
}
double MotionView::Lane::valueAt(double y) const
{
    return parameter->rulerValue(low + (rect.bottom() - 8.0 - y) / (rect.height() - 16.0) * (high - low));
}

double MotionView::number(const scene::Value& v, int component)
{
    if (const auto* d = std::get_if<double>(&v))
        return *d;
    if (const auto* i = std::get_if<std::int64_t>(&v))
        return static_cast<double>(*i);
    if (const auto* b = std::get_if<bool>(&v))
        return *b ? 1.0 : 0.0;
    const auto* three = std::get_if<Vec3>(&v);
    return three ? double((*three)[component]) : 0.0;
}

int MotionView::numbersIn(const Lane& lane) const
{
    using T = scene::ValueType;
    const T type = lane.parameter->type;
    return type == T::Colour || type == T::Point                        ? 3
           : type == T::Number || type == T::Whole || type == T::Switch ? 1
                                                                        : 0;
}

void MotionView::pull()
{
    whole_ = session_.document().whole();
    if (!zoomed_) {
        const double length = std::max(1, whole_.time.last - whole_.time.first);
        from_ = whole_.time.first - 0.03 * length;
        to_ = whole_.time.last + 0.03 * length;
    }
    // Keys that are gone are not chosen any more.
    for (auto k = chosen_.begin(); k != chosen_.end();) {
        const scene::Element* e = whole_.find(k->element);
        const scene::Track* track = e ? e->track(k->parameter) : nullptr;
        k = track && track->at(k->frame) ? std::next(k) : chosen_.erase(k);
    }
    std::string probe;
    for (const std::string& id : session_.selection().chosen())
        if (const scene::Element* e = whole_.find(id); e && (e->kind->id == "probe" || e->kind->id == "buoy"))
            probe = id;
    probe_.want(probe);
    layOut();
    showChosen();
    update();
}

void MotionView::layOut()
{
    // What is chosen; all that moves where nothing that does is.
    const auto& selected = session_.selection().chosen();
    std::vector<const scene::Element*> shown;
    for (const bool all : {false, true})
        if (shown.empty())
            for (const scene::Element& e : whole_.elements)
                if (!e.motion.empty() && (all || std::find(selected.begin(), selected.end(), e.id) != selected.end()))
                    shown.push_back(&e);
    lanes_.clear();
    for (const scene::Element* e : shown)
        for (const scene::Parameter& p : e->kind->parameters)
            if (e->track(p.id))
                lanes_.push_back({{e->id, p.id}, &p, {}, open_.count({e->id, p.id}) > 0});
    // Until somebody opens one himself the first that has keys stands open.
    if (!opened_ && std::none_of(lanes_.begin(), lanes_.end(), [](const Lane& l) { return l.open; }))
        for (Lane& l : lanes_)
            if (numbersIn(l) > 0 && !elementOf(l)->track(l.id.second)->keys.empty()) {
                l.open = true;
                open_.insert(l.id);
                break;
            }
    const QRectF area = plot();
    const auto opened = static_cast<double>(
        std::count_if(lanes_.begin(), lanes_.end(), [](const Lane& l) { return l.open; }));
    const double left = area.height() - thinLane * (static_cast<double>(lanes_.size()) - opened);
    const double openHeight = opened > 0.0 ? std::clamp(left / opened, tall, 320.0) : tall;
    height_ = 0.0;
    for (const Lane& l : lanes_)
        height_ += l.open ? openHeight : thinLane;
    scrolled_ = std::clamp(scrolled_, 0.0, std::max(0.0, height_ - area.height()));
    double y = area.top() - scrolled_;
    for (Lane& l : lanes_) {
        l.rect = QRectF(area.left(), y, area.width(), l.open ? openHeight : thinLane);
        y += l.rect.height();
        if (l.open)
            span(l);
        if (l.open && dragLane_ && dragLane_->id == l.id && drag_ != Drag::None) {
            l.low = dragLane_->low;
            l.high = dragLane_->high;
        }
    }
    layHeader();
}

void MotionView::layHeader()
{
    double x = width() - 8.0;
    for (const auto& [widget, w] :
         {std::pair<QWidget*, int>(snap_, 104), {wayField_, 82}, {valueField_, 104}, {frameField_, 64}}) {
        x -= w + 6;
        widget->setGeometry(static_cast<int>(x), 4, w, 22);
    }
}

void MotionView::resizeEvent(QResizeEvent*) { layOut(); }

void MotionView::span(Lane& lane) const
{
    const scene::Element& e = *elementOf(lane);
    double low = 1e300, high = -1e300;
    const auto take = [&](const scene::Value& v) {
        for (int c = 0; c < std::max(1, numbersIn(lane)); ++c) {
            const double at = lane.parameter->rulerPosition(number(v, c));
            if (!std::isfinite(at))
                continue;
            low = std::min(low, at);
            high = std::max(high, at);
        }
    };
    constexpr int samples = 160;
    for (int i = 0; i <= samples; ++i)
        take(scene::valueAt(whole_, e, *lane.parameter, from_ + (to_ - from_) * i / samples));
    for (const scene::Key& k : e.track(lane.id.second)->keys)
        take(k.value);
    const double least = lane.parameter->type == scene::ValueType::Switch ? 1.0 : 0.02,
                 pad = std::max(0.08 * (high - low), 0.5 * (least - (high - low)));
    lane.low = low - std::max(0.0, pad);
    lane.high = high + std::max(1e-6, pad);
}

const MotionView::Lane* MotionView::laneAt(const QPointF& place) const
{
    if (place.y() < plot().top() || place.y() > plot().bottom() + 4.0)
        return nullptr;
    for (const Lane& l : lanes_)
        if (place.y() >= l.rect.top() && place.y() < l.rect.bottom())
            return &l;
    return nullptr;
}

const MotionView::Lane* MotionView::laneOf(const LaneId& id) const
{
    for (const Lane& l : lanes_)
        if (l.id == id)
            return &l;
    return nullptr;
}

bool MotionView::isOpen(const std::string& element, const std::string& parameter) const
{
    return open_.count({element, parameter}) > 0;
}

std::optional<QRectF> MotionView::nameOf(const std::string& element, const std::string& parameter) const
{
    const Lane* l = laneOf({element, parameter});
    if (!l)
        return std::nullopt;
    return QRectF(4, l->rect.top(), nameWidthShown - 10, thinLane);
}

std::optional<QPointF> MotionView::placeOf(const scene::KeyPlace& key) const
{
    const Lane* l = laneOf({key.element, key.parameter});
    const scene::Track* track = l ? elementOf(*l)->track(key.parameter) : nullptr;
    const scene::Key* k = track ? track->at(key.frame) : nullptr;
    if (!k)
        return std::nullopt;
    return QPointF(xOf(k->frame),
                   l->open && numbersIn(*l) > 0 ? l->yOf(number(k->value, 0)) : l->rect.top() + 0.5 * thinLane);
}

std::optional<MotionView::Hit> MotionView::keyAt(const QPointF& place) const
{
    const Lane* l = laneAt(place);
    if (!l)
        return std::nullopt;
    std::optional<Hit> best;
    double nearest = 7.0;
    for (const scene::Key& k : elementOf(*l)->track(l->id.second)->keys)
        for (int c = 0; c < (l->open ? std::max(1, numbersIn(*l)) : 1); ++c) {
            const double y = l->open && numbersIn(*l) > 0 ? l->yOf(number(k.value, c)) : l->rect.top() + 0.5 * thinLane;
            const double away = std::hypot(xOf(k.frame) - place.x(), (l->open ? 1.0 : 0.6) * (y - place.y()));
            if (away < nearest) {
                nearest = away;
                best = Hit{{l->id.first, l->id.second, k.frame}, c};
            }
        }
    return best;
}

std::optional<QPointF> MotionView::grip(bool last) const
{
    if (chosen_.size() < 2)
        return std::nullopt;
    double first = 1e300, end = -1e300;
    for (const scene::KeyPlace& k : chosen_) {
        first = std::min(first, k.frame);
        end = std::max(end, k.frame);
    }
    if (end <= first)
        return std::nullopt;
    return QPointF(last ? xOf(end) + 9.0 : xOf(first) - 9.0, headerShown + 0.5 * scaleShown);
}

void MotionView::showChosen()
{
    const bool some = !chosen_.empty();
    for (QWidget* w :
         {static_cast<QWidget*>(frameField_), static_cast<QWidget*>(valueField_), static_cast<QWidget*>(wayField_)})
        w->setEnabled(some);
    if (!some) {
        frameField_->clear();
        valueField_->clear();
        return;
    }
    // Of the first; values only where all agree on what they are.
    const auto first = std::min_element(chosen_.begin(), chosen_.end(),
                                        [](const auto& a, const auto& b) { return a.frame < b.frame; });
    const scene::Element* e = whole_.find(first->element);
    const scene::Key* key = e->track(first->parameter)->at(first->frame);
    const bool alike = std::all_of(chosen_.begin(), chosen_.end(), [&](const scene::KeyPlace& k) {
        return k.parameter == first->parameter && whole_.find(k.element)->kind == e->kind;
    });
    if (!frameField_->hasFocus() || !frameField_->isModified())
        frameField_->setText(QString::fromStdString(formatNumber(first->frame, 7)));
    if (!valueField_->hasFocus() || !valueField_->isModified())
        valueField_->setText(alike ? QString::fromStdString(
                                         scene::findParameter(e->kind->parameters, first->parameter)->shown(key->value))
                                   : QString());
    valueField_->setEnabled(alike);
    wayField_->setCurrentIndex(static_cast<int>(key->way));
}
} // namespace hygros::app
