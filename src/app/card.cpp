#include "app/card.h"

#include "app/card_actions.h"
#include "app/edged_label.h"
#include "app/editors.h"
#include "app/key_marks.h"
#include "app/theme.h"
#include "app/words.h"
#include "scene/arrange.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QSettings>
#include <QTimer>
#include <QVBoxLayout>

namespace hygros::app {
using scene::Parameter;
using scene::Value;

namespace {
constexpr int headHeight = 50, edge = 12;

QString foldKey(const scene::Element& e, const std::string& group)
{
    return QString("folded/%1/%2").arg(QString::fromStdString(e.kind->id), QString::fromStdString(group));
}
} // namespace

Card::Card(Session& session, const std::string& element, bool open, const CardFilter& filter, QWidget* parent)
    : QWidget(parent), session_(session), element_(element), open_(open), filter_(filter)
{
    setObjectName("card:" + QString::fromStdString(element));
    setFocusPolicy(Qt::TabFocus);
    setAttribute(Qt::WA_Hover);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(edge, headHeight + 6, 10, 8);
    layout->setSpacing(0);
    build();
    connect(&session.picture(), &Picture::thumbnailChanged, this, [this](const QString& id) {
        if (id.toStdString() == element_)
            update();
    });
    connect(&session.selection(), &Selection::hoveredChanged, this, qOverload<>(&QWidget::update));
    connect(&session.picture(), &Picture::costsChanged, this, qOverload<>(&QWidget::update));
    connect(&session.picture(), &Picture::shotChanged, this, &Card::pullShot);
    connect(&session.baker(), &Baker::changed, this, &Card::tellNotes);
}

const scene::Element& Card::now() const
{
    static const scene::Element gone;
    const scene::Element* e = session_.project().find(element_);
    return e ? *e : gone;
}

Value Card::value(const Parameter& parameter) const { return parameter.get(*now().settings); }

bool Card::set(const Parameter& parameter, const Value& value, bool dragging)
{
    const QString merge =
        QString("%1.%2#%3").arg(QString::fromStdString(element_), QString::fromStdString(parameter.id)).arg(gesture_);
    Arranger& arranger = session_.arranger();
    return arranger.setValues(arranger.with(element_), parameter, value, dragging ? merge : QString());
}

void Card::endGesture()
{
    ++gesture_;
    session_.document().endDrag();
}

void Card::onRefresh(std::function<void()> pull)
{
    pull();
    refreshers_.push_back(std::move(pull));
}

bool Card::shows(const Parameter& parameter) const
{
    const scene::Element& e = now();
    if (!scene::applies(e.kind->parameters, parameter, *e.settings))
        return false;
    if (filter_.changedOnly && scene::isDefault(e, parameter))
        return false;
    if (!filter_.text.isEmpty())
        return QString::fromStdString(parameter.label).contains(filter_.text, Qt::CaseInsensitive) ||
               QString::fromStdString(parameter.group).contains(filter_.text, Qt::CaseInsensitive);
    return true;
}

std::string Card::shapeNow() const
{
    std::string shape;
    for (const Parameter& p : now().kind->parameters)
        if (shows(p))
            shape += p.id + " ";
    return shape;
}

void Card::addGroup(QVBoxLayout* column, const std::string& name, const std::vector<const Parameter*>& parameters)
{
    if (!name.empty()) {
        const QString key = foldKey(now(), name);
        const bool folded = !filter_.isOn() && QSettings().value(key, false).toBool();
        auto* title = new QPushButton(QString::fromStdString(name) + (folded ? "  …" : ""), body_);
        title->setObjectName("group:" + QString::fromStdString(name));
        title->setProperty("group", QString::fromStdString(name));
        title->setFont(textFont(12, QFont::DemiBold));
        title->setFlat(true);
        title->setCursor(Qt::PointingHandCursor);
        title->setStyleSheet(QString("QPushButton{border:none;text-align:left;padding:8px 3px 3px 3px;color:%1}"
                                     "QPushButton:hover,QPushButton:focus{color:%2}")
                                 .arg(Theme::now().text.name(), Theme::now().accent.name()));
        title->setToolTip(folded ? say("Show these settings") : say("Fold these settings away"));
        connect(title, &QPushButton::clicked, this, [this, key, folded] {
            QSettings().setValue(key, !folded);
            QTimer::singleShot(0, this, &Card::build); // the title itself is made anew
        });
        column->addWidget(title);
        if (folded)
            return;
    }
    QHBoxLayout* pair = nullptr;
    for (const Parameter* p : parameters) {
        QWidget* editor = editorFor(*this, *p);
        followKeys(*this, *p, editor);
        nameFields(*p, *editor);
        editor->setProperty("parameter", QString::fromStdString(p->id));
        if (!isNarrow(*p)) {
            pair = nullptr;
            column->addWidget(editor);
            continue;
        }
        if (!pair || pair->count() == 2) {
            pair = new QHBoxLayout;
            pair->setSpacing(12);
            column->addLayout(pair);
        }
        pair->addWidget(editor, 1);
    }
    if (pair && pair->count() == 1)
        pair->addStretch(1);
}

QWidget* Card::field(const std::string& parameter)
{
    if (const Parameter* p = scene::findParameter(now().kind->parameters, parameter))
        QSettings().setValue(foldKey(now(), p->group), false);
    build();
    const auto all = body_->findChildren<QWidget*>();
    const auto own = [&](QWidget* w) { return w->property("parameter").toString().toStdString() == parameter; };
    const auto at = std::find_if(all.begin(), all.end(), own);
    return at == all.end() ? nullptr : *at;
}

void Card::build()
{
    delete body_;
    refreshers_.clear();
    shotPulls_.clear();
    body_ = new QWidget(this);
    auto* column = new QVBoxLayout(body_);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    const scene::Element& e = now();
    std::vector<const Parameter*> lead;
    std::vector<std::pair<std::string, std::vector<const Parameter*>>> groups;
    shape_ = shapeNow();
    for (const Parameter& p : e.kind->parameters) {
        if (!shows(p))
            continue;
        if (p.isLead) {
            lead.push_back(&p);
            continue;
        }
        auto group = std::find_if(groups.begin(), groups.end(), [&](const auto& g) { return g.first == p.group; });
        if (group == groups.end())
            group = groups.insert(groups.end(), {p.group, {}});
        group->second.push_back(&p);
    }
    addGroup(column, {}, lead);
    // A search looks into folded cards too.
    if (open_ || !filter_.text.isEmpty())
        for (const auto& [name, parameters] : groups)
            addGroup(column, name, parameters);
    if (open_ && !filter_.isOn())
        offerActions(*this, column);
    notes_ = new EdgedLabel(body_);
    notes_->setObjectName("notes");
    notes_->setWordWrap(true);
    notes_->setContentsMargins(9, 2, 6, 2);
    column->addWidget(notes_);
    find_ = new QPushButton(say("Choose its new place…"), body_);
    find_->setObjectName("findFile");
    find_->setToolTip(say("Other missing files of the same folder are found along with it."));
    find_->setStyleSheet(plainButton());
    column->addWidget(find_);
    connect(find_, &QPushButton::clicked, this, &Card::findFile);
    tellNotes();
    layout()->addWidget(body_);
    body_->show();
    updateGeometry();
    update();
}

void Card::tellNotes()
{
    QStringList all;
    for (const QString& n : session_.picture().notes(element_))
        all << n;
    if (const QString baked = session_.baker().said(element_); !baked.isEmpty())
        all << baked;
    notes_->setText(all.join("\n"));
    notes_->setHue(session_.picture().isInTrouble(element_) ? familyHue(scene::Family::Fire) : Theme::now().rule);
    notes_->setVisible(!all.isEmpty());
    if (auto* bake = body_->findChild<QPushButton*>("do:bake"))
        bake->setText(session_.baker().isBaking(element_) ? say("Stop the bake") : say("Bake"));
    find_->setVisible(!missing().empty());
    updateGeometry();
}

std::string Card::missing() const
{
    if (const auto shot = session_.picture().shot())
        for (const shot::Note& n : shot->notes)
            if (n.element == element_ && !n.missing.empty())
                return n.missing;
    return {};
}

void Card::findFile()
{
    const std::string parameter = missing();
    const Parameter* p = scene::findParameter(now().kind->parameters, parameter);
    if (!p)
        return;
    const QString was = QFileInfo(QString::fromStdString(std::get<std::string>(value(*p)))).fileName();
    const QString file = QFileDialog::getOpenFileName(this, say("Where is ") + was + "?", {},
                                                      QString::fromStdString(p->files));
    if (file.isEmpty())
        return;
    int found = 0;
    session_.document().edit(say("Find ") + was, [&](scene::Project& project) {
        found = elements::findFiles(project, element_, parameter, file.toStdString());
    });
    if (found > 1)
        Q_EMIT session_.told(say("%1 files were found there.").arg(found));
}

void Card::setOpen(bool open)
{
    if (open == open_)
        return;
    open_ = open;
    build();
    Q_EMIT opened(QString::fromStdString(element_), open);
}

void Card::setFilter(const CardFilter& filter)
{
    if (filter == filter_)
        return;
    filter_ = filter;
    build();
}

void Card::refresh()
{
    if (!now().kind)
        return;
    setAccessibleName(QString::fromStdString(now().name));
    if (shapeNow() != shape_) {
        // A field that is being used may be the one that goes.
        if (filter_.isOn()) {
            QTimer::singleShot(0, this, [this] {
                if (now().kind && shapeNow() != shape_)
                    build();
            });
            return;
        }
        build();
    }
    for (const auto& pull : refreshers_)
        pull();
    update();
}

QRect Card::muteRect() const { return {width() - 52, 8, 44, 20}; }
QRect Card::soloRect() const { return {width() - 92, 8, 38, 20}; }
QRect Card::nameRect() const
{
    const scene::Element& e = now();
    const bool pictured = e.kind->family == scene::Family::Air || e.kind->family == scene::Family::Lights;
    const int left = edge + (pictured ? 72 : 0);
    const bool mutes = !elements::kindOf(e).staysWhenSilent;
    return {left, 8, (mutes ? soloRect().left() : width() - 10) - left - 6, 20};
}

void Card::paintEvent(QPaintEvent*)
{
    const scene::Element& e = now();
    if (!e.kind)
        return;
    const Theme& t = Theme::now();
    QPainter p(this);
    const bool lit = hovered_ || session_.selection().hovered() == element_;
    p.fillRect(rect(), lit ? t.raised.lighter(106) : t.raised);
    const bool silent = session_.project().silent(e);
    QColor hue = familyHue(e.kind->family);
    if (silent)
        hue.setAlpha(90);
    p.fillRect(QRect(0, 0, 3, height()), hue);
    // Chosen together with others: a rule all around.
    const auto& chosen = session_.selection().chosen();
    if (chosen.size() > 1 && session_.selection().isChosen(element_)) {
        p.setPen(QPen(t.accent, 1));
        p.drawRect(rect().adjusted(0, 0, -1, -1));
    }
    paintHead(p, e, silent);
    if (hasFocus()) {
        p.setPen(QPen(t.accent, 1));
        p.setBrush(Qt::NoBrush);
        p.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

void Card::paintHead(QPainter& p, const scene::Element& e, bool silent)
{
    const Theme& t = Theme::now();
    const int x = nameRect().left();
    if (x > edge) {
        const QRect frame(edge, 8, 62, 36);
        p.fillRect(frame, Qt::black);
        const QImage thumb = session_.picture().thumbnail(element_);
        if (const std::string& swatch = elements::kindOf(e).swatch; !swatch.empty()) { // it adds no light of its own
            QLinearGradient colours(frame.bottomLeft(), frame.topLeft());
            const scene::Value stops = e.value(swatch);
            for (const scene::ColourStop& stop : std::get<scene::ColourStops>(stops))
                colours.setColorAt(static_cast<double>(std::clamp(stop.at, 0.f, 1.f)), displayColour(stop.colour));
            p.setOpacity(silent ? 0.35 : 1.0);
            p.fillRect(frame, colours);
            p.setOpacity(1.0);
        } else if (!thumb.isNull() && !silent) {
            p.setRenderHint(QPainter::SmoothPixmapTransform);
            const QImage scaled = thumb.scaled(frame.size(), Qt::KeepAspectRatioByExpanding, Qt::SmoothTransformation);
            p.drawImage(frame, scaled,
                        QRect((scaled.width() - frame.width()) / 2, (scaled.height() - frame.height()) / 2,
                              frame.width(), frame.height()));
        }
    }
    p.setPen(silent ? t.quiet : t.text);
    p.setFont(textFont(13, QFont::DemiBold));
    p.drawText(nameRect(), Qt::AlignVCenter,
               QFontMetrics(p.font()).elidedText(QString::fromStdString(e.name), Qt::ElideRight, nameRect().width()));
    p.setFont(textFont(11));
    p.setPen(t.quiet);
    QString second = QString::fromStdString(e.kind->label);
    if (const auto& extinction = elements::kindOf(e).extinction)
        second += QString("  ·  %1 /m").arg(figures(extinction(e), 2));
    // What it takes of a pass stands at the right.
    const QString cost = silent ? QString() : session_.picture().costText(element_);
    p.setFont(figureFont(10));
    const int costWidth = cost.isEmpty() ? 0 : p.fontMetrics().horizontalAdvance(cost) + 8;
    p.drawText(QRect(x, 27, width() - x - 32, 18), Qt::AlignVCenter | Qt::AlignRight, cost);
    p.setFont(textFont(11));
    const int room = width() - x - 32 - costWidth;
    if (const auto dot = second.indexOf("  ·  "); dot > 0 && p.fontMetrics().horizontalAdvance(second) > room)
        second = second.mid(dot + 5); // the number says more than the kind
    p.drawText(QRect(x, 27, room, 18), Qt::AlignVCenter, p.fontMetrics().elidedText(second, Qt::ElideRight, room));
    if (!elements::kindOf(e).staysWhenSilent)
        drawSwitches(p, soloRect(), e.soloed, muteRect(), e.muted);
    // A chevron says that there is more.
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(t.quiet, 1.5));
    const QPointF c(width() - 22, 37);
    const double tip = open_ ? -2 : 2;
    p.drawPolyline(QPolygonF{c + QPointF(-4, -tip), c + QPointF(0, tip), c + QPointF(4, -tip)});
    p.setRenderHint(QPainter::Antialiasing, false);
}

void drawSwitches(QPainter& p, const QRect& solo, bool soloed, const QRect& mute, bool muted)
{
    const Theme& t = Theme::now();
    const auto word = [&](const QRect& r, const QString& text, bool on) {
        p.setFont(textFont(11, on ? QFont::DemiBold : QFont::Normal));
        p.setPen(on ? t.accent : t.quiet);
        p.drawText(r, Qt::AlignCenter, text);
        if (on)
            p.drawLine(r.left() + 4, r.bottom(), r.right() - 4, r.bottom());
    };
    word(solo, say("solo"), soloed);
    word(mute, muted ? say("muted") : say("mute"), muted);
}
} // namespace hygros::app
