#include "app/card.h"

#include "app/card_actions.h"
#include "app/editors.h"
#include "app/theme.h"

#include <QContextMenuEvent>
#include <QInputDialog>
#include <QKeyEvent>
#include <QLabel>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

namespace hygros::app {
using scene::Parameter;
using scene::Value;

namespace {
constexpr int headHeight = 50, edge = 12;
}

Card::Card(Session& session, const std::string& element, bool open, QWidget* parent)
    : QWidget(parent), session_(session), element_(element), open_(open)
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
    connect(&session.selection(), &Selection::hoveredChanged, this, [this] { update(); });
    connect(&session.picture(), &Picture::costsChanged, this, [this] { update(); });
    connect(&session.picture(), &Picture::shotChanged, this, &Card::tellNotes);
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
    const QString merge = QString("%1.%2#%3")
                              .arg(QString::fromStdString(element_), QString::fromStdString(parameter.id))
                              .arg(gesture_);
    return session_.document().setValue(element_, parameter.id, value, dragging ? merge : QString());
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

void Card::addGroup(QVBoxLayout* column, const QString& name, const std::vector<const Parameter*>& parameters)
{
    if (!name.isEmpty()) {
        auto* title = new QLabel(name, body_);
        title->setFont(textFont(12, QFont::DemiBold));
        title->setContentsMargins(3, 8, 0, 3);
        column->addWidget(title);
    }
    QHBoxLayout* pair = nullptr;
    for (const Parameter* p : parameters) {
        QWidget* editor = editorFor(*this, *p);
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

void Card::build()
{
    delete body_;
    refreshers_.clear();
    body_ = new QWidget(this);
    auto* column = new QVBoxLayout(body_);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    const scene::Element& e = now();
    const Theme& t = Theme::now();
    std::vector<const Parameter*> lead;
    std::vector<std::pair<std::string, std::vector<const Parameter*>>> groups;
    shape_.clear();
    for (const Parameter& p : e.kind->parameters) {
        if (!scene::applies(e.kind->parameters, p, *e.settings))
            continue;
        shape_ += p.id + " ";
        if (p.isLead) {
            lead.push_back(&p);
            continue;
        }
        if (groups.empty() || groups.back().first != p.group) {
            const auto same = std::find_if(groups.begin(), groups.end(),
                                           [&](const auto& g) { return g.first == p.group; });
            if (same != groups.end()) {
                same->second.push_back(&p);
                continue;
            }
            groups.emplace_back(p.group, std::vector<const Parameter*>());
        }
        groups.back().second.push_back(&p);
    }
    addGroup(column, {}, lead);
    if (open_)
        for (const auto& [name, parameters] : groups)
            addGroup(column, QString::fromStdString(name), parameters);
    if (open_)
        for (const CardAction& action : actionsOf(elements::kindOf(e))) {
            auto* button = new QPushButton(action.label, body_);
            button->setObjectName("do:" + action.id);
            button->setToolTip(action.help);
            button->setStyleSheet(plainButton());
            column->addWidget(button);
            connect(button, &QPushButton::clicked, this, [this, run = action.run] { run(session_, element_); });
        }
    notes_ = new QLabel(body_);
    notes_->setObjectName("notes");
    notes_->setWordWrap(true);
    notes_->setStyleSheet(QString("color:%1;border-left:2px solid #D0654B;padding:2px 6px").arg(t.text.name()));
    column->addWidget(notes_);
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
    notes_->setText(all.join("\n"));
    notes_->setVisible(!all.isEmpty());
    updateGeometry();
}

void Card::setOpen(bool open)
{
    if (open == open_)
        return;
    open_ = open;
    build();
    Q_EMIT opened(QString::fromStdString(element_), open);
}

void Card::refresh()
{
    const scene::Element& e = now();
    if (!e.kind)
        return;
    std::string shape;
    for (const Parameter& p : e.kind->parameters)
        if (scene::applies(e.kind->parameters, p, *e.settings))
            shape += p.id + " ";
    if (shape != shape_)
        build();
    for (const auto& pull : refreshers_)
        pull();
    update();
}

QRect Card::muteRect() const { return {width() - 52, 8, 44, 20}; }
QRect Card::soloRect() const { return {width() - 92, 8, 38, 20}; }

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
    int x = edge;
    const QImage thumb = session_.picture().thumbnail(element_);
    const bool pictured = e.kind->family == scene::Family::Air || e.kind->family == scene::Family::Lights;
    if (pictured) {
        const QRect frame(x, 8, 62, 36);
        p.fillRect(frame, Qt::black);
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
        x += 72;
    }
    p.setPen(silent ? t.quiet : t.text);
    p.setFont(textFont(13, QFont::DemiBold));
    const bool mutes = !elements::kindOf(e).staysWhenSilent;
    const int nameWidth = (mutes ? soloRect().left() : width() - 10) - x - 6;
    p.drawText(QRect(x, 8, nameWidth, 20), Qt::AlignVCenter,
               QFontMetrics(p.font()).elidedText(QString::fromStdString(e.name), Qt::ElideRight, nameWidth));
    p.setFont(textFont(11));
    p.setPen(t.quiet);
    QString second = QString::fromStdString(e.kind->label);
    if (const auto& extinction = elements::kindOf(e).extinction)
        second += QString("  ·  %1 /m").arg(QString::fromStdString(formatNumber(extinction(e), 2)));
    // What it takes of a pass stands at the right.
    const QString cost = silent ? QString() : session_.picture().costText(element_);
    p.setFont(figureFont(10));
    const int costWidth = cost.isEmpty() ? 0 : p.fontMetrics().horizontalAdvance(cost) + 8;
    p.drawText(QRect(x, 27, width() - x - 32, 18), Qt::AlignVCenter | Qt::AlignRight, cost);
    p.setFont(textFont(11));
    if (const auto dot = second.indexOf("  ·  ");
        dot > 0 && p.fontMetrics().horizontalAdvance(second) > width() - x - 32 - costWidth)
        second = second.mid(dot + 5); // the number says more than the kind
    p.drawText(QRect(x, 27, width() - x - 32 - costWidth, 18), Qt::AlignVCenter,
               p.fontMetrics().elidedText(second, Qt::ElideRight, width() - x - 32 - costWidth));
    if (mutes) {
        const auto word = [&](const QRect& r, const QString& text, bool on) {
            p.setFont(textFont(11, on ? QFont::DemiBold : QFont::Normal));
            p.setPen(on ? t.accent : t.quiet);
            p.drawText(r, Qt::AlignCenter, text);
            if (on)
                p.drawLine(r.left() + 4, r.bottom(), r.right() - 4, r.bottom());
        };
        word(soloRect(), "solo", e.soloed);
        word(muteRect(), e.muted ? "muted" : "mute", e.muted);
    }
    // A chevron says that there is more.
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(t.quiet, 1.5));
    const QPointF c(width() - 22, 37);
    if (open_)
        p.drawPolyline(QPolygonF{c + QPointF(-4, 2), c + QPointF(0, -2), c + QPointF(4, 2)});
    else
        p.drawPolyline(QPolygonF{c + QPointF(-4, -2), c + QPointF(0, 2), c + QPointF(4, -2)});
    if (hasFocus()) {
        p.setPen(QPen(t.accent, 1));
        p.setBrush(Qt::NoBrush);
        p.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

void Card::toggle(bool scene::Element::*flag, const QString& name)
{
    session_.document().edit(name + " " + QString::fromStdString(now().name), [&](scene::Project& p) {
        scene::Element& e = *p.find(element_);
        e.*flag = !(e.*flag);
    });
}

void Card::mousePressEvent(QMouseEvent* e)
{
    if (e->button() != Qt::LeftButton || e->pos().y() > headHeight)
        return QWidget::mousePressEvent(e);
    const bool mutes = !elements::kindOf(now()).staysWhenSilent;
    if (mutes && muteRect().contains(e->pos()))
        toggle(&scene::Element::muted, "Mute");
    else if (mutes && soloRect().contains(e->pos()))
        toggle(&scene::Element::soloed, "Solo");
    else
        setOpen(!open_);
}

void Card::keyPressEvent(QKeyEvent* e)
{
    // Keys that a field inside has done with (Return ends typing) are not the card's.
    if (QWidget* f = window()->focusWidget(); f && f != this && isAncestorOf(f))
        return QWidget::keyPressEvent(e);
    switch (e->key()) {
    case Qt::Key_Space:
    case Qt::Key_Return: setOpen(!open_); break;
    case Qt::Key_M: toggle(&scene::Element::muted, "Mute"); break;
    case Qt::Key_S: toggle(&scene::Element::soloed, "Solo"); break;
    default: QWidget::keyPressEvent(e);
    }
}

void Card::enterEvent(QEnterEvent*)
{
    hovered_ = true;
    session_.selection().setHovered(element_);
    update();
}
void Card::leaveEvent(QEvent*)
{
    hovered_ = false;
    session_.selection().setHovered({});
    update();
}

void Card::contextMenuEvent(QContextMenuEvent* e)
{
    QMenu menu(this);
    menu.addAction("Rename…", this, [this] {
        bool good = false;
        const QString name = QInputDialog::getText(this, "Rename", "Name", QLineEdit::Normal,
                                                   QString::fromStdString(now().name), &good);
        if (good && !name.trimmed().isEmpty())
            session_.document().edit("Rename", [&](scene::Project& p) { p.find(element_)->name = name.trimmed().toStdString(); });
    });
    QAction* gone = menu.addAction("Remove", this, [this] {
        session_.document().edit("Remove " + QString::fromStdString(now().name),
                      [id = element_](scene::Project& p) { p.remove(id); });
    });
    gone->setEnabled(!now().kind->permanent);
    menu.exec(e->globalPos());
}
} // namespace hygros::app
