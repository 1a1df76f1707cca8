/// Cards in the hand: choosing, dragging, renaming, their menu and keys.
#include "app/card.h"
#include "app/key_marks.h"
#include "app/theme.h"
#include "app/words.h"
#include "scene/arrange.h"

#include <QApplication>
#include <QClipboard>
#include <QContextMenuEvent>
#include <QInputDialog>
#include <QKeyEvent>
#include <QLineEdit>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>

namespace hygros::app {
using scene::Parameter;

namespace {
constexpr int headHeight = 50;
}

void Card::pullShot()
{
    tellNotes();
    for (const auto& pull : shotPulls_)
        pull();
}

void Card::leave()
{
    hide();
    session_.picture().disconnect(this);
    session_.baker().disconnect(this);
    shotPulls_.clear();
    // What is on its way to it and its fields must not reach them.
    QObjectList all = findChildren<QObject*>();
    for (QObject* o : all << this)
        QCoreApplication::removePostedEvents(o, QEvent::MetaCall);
    deleteLater();
}

void Card::toggle(bool scene::Element::*flag)
{
    session_.arranger().setFlag(session_.arranger().with(element_), flag, !(now().*flag));
}

void Card::mousePressEvent(QMouseEvent* e)
{
    headPressed_ = dragging_ = false;
    if (e->button() != Qt::LeftButton || e->pos().y() > headHeight)
        return QWidget::mousePressEvent(e);
    const bool mutes = !elements::kindOf(now()).staysWhenSilent;
    if (mutes && muteRect().contains(e->pos()))
        return toggle(&scene::Element::muted);
    if (mutes && soloRect().contains(e->pos()))
        return toggle(&scene::Element::soloed);
    headPressed_ = true;
    pressedAt_ = e->pos();
}

void Card::mouseMoveEvent(QMouseEvent* e)
{
    if (!headPressed_ || !(e->buttons() & Qt::LeftButton))
        return;
    if (!dragging_ && (e->pos() - pressedAt_).manhattanLength() < QApplication::startDragDistance())
        return;
    dragging_ = true;
    setCursor(Qt::ClosedHandCursor);
    Q_EMIT dragged(QString::fromStdString(element_), e->globalPosition().toPoint());
}

void Card::mouseReleaseEvent(QMouseEvent* e)
{
    if (!headPressed_ || e->button() != Qt::LeftButton)
        return;
    headPressed_ = false;
    if (dragging_) {
        dragging_ = false;
        unsetCursor();
        Q_EMIT dropped(QString::fromStdString(element_), e->globalPosition().toPoint());
    } else if (e->modifiers() & (Qt::ControlModifier | Qt::ShiftModifier)) {
        Q_EMIT pressed(QString::fromStdString(element_), e->modifiers());
    } else {
        setOpen(!open_);
    }
}

void Card::mouseDoubleClickEvent(QMouseEvent* e)
{
    if (e->button() != Qt::LeftButton || !nameRect().contains(e->pos()))
        return mousePressEvent(e);
    // The first of both clicks has unfolded it, or folded it away.
    setOpen(!open_);
    beginRename();
}

void Card::beginRename()
{
    if (rename_)
        return;
    const Theme& t = Theme::now();
    rename_ = new QLineEdit(QString::fromStdString(now().name), this);
    rename_->setObjectName("rename");
    rename_->setFont(textFont(13, QFont::DemiBold));
    rename_->setStyleSheet(QString("QLineEdit{border:1px solid %1;background:%2;color:%3;padding:0 3px}")
                               .arg(t.accent.name(), t.field.name(), t.text.name()));
    rename_->setGeometry(nameRect().adjusted(-4, -2, 0, 2));
    rename_->selectAll();
    rename_->show();
    rename_->setFocus();
    const auto end = [this](bool take) {
        if (!rename_)
            return;
        QLineEdit* field = std::exchange(rename_, nullptr);
        const QString name = field->text();
        field->hide();
        field->deleteLater();
        if (take)
            session_.arranger().rename(element_, name);
    };
    connect(rename_, &QLineEdit::editingFinished, this, [end] { end(true); });
    auto* stop = new QAction(rename_);
    stop->setShortcut(Qt::Key_Escape);
    stop->setShortcutContext(Qt::WidgetShortcut);
    connect(stop, &QAction::triggered, this, [end] { end(false); });
    rename_->addAction(stop);
}

void Card::keyPressEvent(QKeyEvent* e)
{
    // Keys that a field inside has done with (Return ends typing) are not the card's.
    if (QWidget* f = window()->focusWidget(); f && f != this && isAncestorOf(f)) {
        const Parameter* p = e->key() == Qt::Key_K ? parameterAt(f->mapTo(this, f->rect().center())) : nullptr;
        if (p && scene::mayBeKeyed(*p))
            return setKeyHere(*this, *p, !(e->modifiers() & Qt::ShiftModifier));
        return QWidget::keyPressEvent(e);
    }
    const bool alt = e->modifiers() & Qt::AltModifier;
    switch (e->key()) {
    case Qt::Key_Space:
        if (e->modifiers() & Qt::ControlModifier) {
            Q_EMIT pressed(QString::fromStdString(element_), Qt::ControlModifier);
            break;
        }
        [[fallthrough]];
    case Qt::Key_Return: setOpen(!open_); break;
    case Qt::Key_M: toggle(&scene::Element::muted); break;
    case Qt::Key_S: toggle(&scene::Element::soloed); break;
    case Qt::Key_F2: beginRename(); break;
    case Qt::Key_Delete: session_.arranger().remove(session_.arranger().with(element_)); break;
    case Qt::Key_Up:
    case Qt::Key_Down:
        if (alt)
            session_.arranger().step(element_, e->key() == Qt::Key_Up ? -1 : 1);
        else
            QWidget::keyPressEvent(e);
        break;
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

const Parameter* Card::parameterAt(const QPoint& place) const
{
    for (QWidget* w = childAt(place); w && w != this; w = w->parentWidget())
        if (const QVariant id = w->property("parameter"); id.isValid())
            return scene::findParameter(now().kind->parameters, id.toString().toStdString());
    return nullptr;
}

void Card::fillMenu(QMenu& menu, const Parameter* parameter)
{
    Arranger& arranger = session_.arranger();
    const std::vector<std::string> all = arranger.with(element_);
    const bool permanent = now().kind->permanent, several = all.size() > 1;
    const QString of = several ? say(" %1 elements").arg(all.size()) : QString();
    if (parameter) {
        const QString label = QString::fromStdString(parameter->label);
        menu.addAction(
            say("Reset “%1” to %2").arg(label, QString::fromStdString(parameter->shown(parameter->fallback))), this,
            [this, id = parameter->id] { session_.arranger().reset(session_.arranger().with(element_), {id}); });
        const QString path = QString::fromStdString(element_ + "." + parameter->id);
        menu.addAction(say("Copy its path: ") + path, this, [path] { QApplication::clipboard()->setText(path); });
        if (!several && !elements::bracketWays(session_.project(), path.toStdString()).empty())
            menu.addAction(say("Bracket it…"), this, [this, path] { Q_EMIT session_.bracketWanted(path); });
        menu.addSeparator();
        addKeyActions(menu, *this, *parameter);
    }
    menu.addAction(say("Rename"), QKeySequence("F2"), this, &Card::beginRename)->setEnabled(!several);
    if (!now().kind->single)
        menu.addAction(say("Duplicate") + of, QKeySequence("Ctrl+D"), this,
                       [&arranger, all] { arranger.duplicate(all); });
    menu.addAction(say("Copy") + of, QKeySequence::Copy, this, [&arranger, all] { arranger.copy(all); });
    menu.addAction(say("Paste"), QKeySequence::Paste, this, [&arranger] { arranger.paste(); })
        ->setEnabled(Arranger::canPaste());
    menu.addSeparator();
    menu.addAction(say("Group…"), QKeySequence("Ctrl+G"), this, [this, &arranger, all] {
        bool good = false;
        const QString name = QInputDialog::getText(this, say("Group"), say("Name of the group"), QLineEdit::Normal,
                                                   say("Group"), &good);
        if (good && !name.trimmed().isEmpty())
            arranger.group(all, name.trimmed());
    });
    menu.addAction(say("Save as recipe…"), this,
                   [this, all] {
                       session_.selection().setChosen(all);
                       Q_EMIT recipeWanted();
                   })
        ->setEnabled(!now().kind->single || several);
    menu.addSeparator();
    menu.addAction(say("Reset all settings") + (several ? say(" of") + of : QString()), this,
                   [&arranger, all] { arranger.reset(all, {}); });
    const QString kind = inText(now().kind->label);
    menu.addAction(say("New %1 elements begin like this").arg(kind), this,
                   [this, &arranger] { arranger.saveAsDefault(element_); })
        ->setEnabled(!several && !now().kind->permanent);
    if (Arranger::hasDefault(*now().kind))
        menu.addAction(say("New %1 elements begin as at first").arg(kind), this,
                       [&arranger, k = now().kind] { arranger.forgetDefault(*k); });
    menu.addSeparator();
    menu.addAction(say("Remove") + of, QKeySequence::Delete, this, [&arranger, all] { arranger.remove(all); })
        ->setEnabled(!permanent || several);
}

void Card::contextMenuEvent(QContextMenuEvent* e)
{
    QMenu menu(this);
    // A title of settings.
    if (const QWidget* w = childAt(e->pos()); w && w->property("group").isValid()) {
        const std::string group = w->property("group").toString().toStdString();
        std::set<std::string> ids;
        for (const Parameter& p : now().kind->parameters)
            if (p.group == group && !p.isLead)
                ids.insert(p.id);
        menu.addAction(say("Reset “%1”").arg(QString::fromStdString(group)), this,
                       [this, ids] { session_.arranger().reset(session_.arranger().with(element_), ids); });
    } else {
        fillMenu(menu, parameterAt(e->pos()));
    }
    menu.exec(e->globalPos());
}

GroupHead::GroupHead(Session& session, const std::string& group, QWidget* parent)
    : QWidget(parent), session_(session), group_(group)
{
    setObjectName("groupHead:" + QString::fromStdString(group));
    setFocusPolicy(Qt::TabFocus);
    setFixedHeight(30);
    setToolTip(say("A click folds the group and chooses its elements; drag it to another place."));
    connect(&session.selection(), &Selection::chosenChanged, this, qOverload<>(&QWidget::update));
}

void GroupHead::paintEvent(QPaintEvent*)
{
    const scene::Group* g = session_.project().findGroup(group_);
    if (!g)
        return;
    const Theme& t = Theme::now();
    QPainter p(this);
    p.fillRect(rect(), t.panel);
    p.setPen(QPen(t.rule, 1));
    p.drawLine(0, height() - 1, width(), height() - 1);
    // A bracket that opens or closes over its members.
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(t.quiet, 1.5));
    const QPointF c(11, 15);
    if (g->folded)
        p.drawPolyline(QPolygonF{c + QPointF(-3, -4), c + QPointF(1, 0), c + QPointF(-3, 4)});
    else
        p.drawPolyline(QPolygonF{c + QPointF(-5, -2), c + QPointF(-1, 2), c + QPointF(3, -2)});
    const auto members = scene::membersOf(session_.project(), group_);
    p.setPen(g->muted ? t.quiet : t.text);
    p.setFont(textFont(12, QFont::DemiBold));
    const int room = soloRect().left() - 26 - 60;
    const QString name = p.fontMetrics().elidedText(QString::fromStdString(g->name), Qt::ElideRight, room);
    p.drawText(QRect(24, 0, room, height()), Qt::AlignVCenter, name);
    const int after = 24 + p.fontMetrics().horizontalAdvance(name) + 8;
    p.setFont(figureFont(10));
    p.setPen(t.quiet);
    p.drawText(QRect(after, 0, 60, height()), Qt::AlignVCenter, QString::number(members.size()));
    drawSwitches(p, soloRect(), g->soloed, muteRect(), g->muted);
    if (hasFocus()) {
        p.setPen(QPen(t.accent, 1));
        p.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

void GroupHead::fold()
{
    if (const scene::Group* g = session_.project().findGroup(group_))
        session_.arranger().setGroupFlag(group_, &scene::Group::folded, !g->folded);
}

void GroupHead::mousePressEvent(QMouseEvent* e)
{
    dragging_ = false;
    pressedAt_ = e->pos();
}

void GroupHead::mouseMoveEvent(QMouseEvent* e)
{
    if (!(e->buttons() & Qt::LeftButton) ||
        (!dragging_ && (e->pos() - pressedAt_).manhattanLength() < QApplication::startDragDistance()))
        return;
    dragging_ = true;
    Q_EMIT dragged(QString::fromStdString(group_), e->globalPosition().toPoint());
}

void GroupHead::mouseReleaseEvent(QMouseEvent* e)
{
    const scene::Group* g = session_.project().findGroup(group_);
    if (e->button() != Qt::LeftButton || !g)
        return;
    if (std::exchange(dragging_, false)) {
        Q_EMIT dropped(QString::fromStdString(group_), e->globalPosition().toPoint());
    } else if (muteRect().contains(e->pos())) {
        session_.arranger().setGroupFlag(group_, &scene::Group::muted, !g->muted);
    } else if (soloRect().contains(e->pos())) {
        session_.arranger().setGroupFlag(group_, &scene::Group::soloed, !g->soloed);
    } else {
        session_.selection().setChosen(scene::membersOf(session_.project(), group_));
        fold();
    }
}

void GroupHead::keyPressEvent(QKeyEvent* e)
{
    const scene::Group* g = session_.project().findGroup(group_);
    if (!g)
        return;
    switch (e->key()) {
    case Qt::Key_Space:
    case Qt::Key_Return: fold(); break;
    case Qt::Key_M: session_.arranger().setGroupFlag(group_, &scene::Group::muted, !g->muted); break;
    case Qt::Key_S: session_.arranger().setGroupFlag(group_, &scene::Group::soloed, !g->soloed); break;
    case Qt::Key_Delete: session_.arranger().remove(scene::membersOf(session_.project(), group_)); break;
    default: QWidget::keyPressEvent(e);
    }
}

void GroupHead::contextMenuEvent(QContextMenuEvent* e)
{
    Arranger& arranger = session_.arranger();
    const auto members = scene::membersOf(session_.project(), group_);
    QMenu menu(this);
    menu.addAction(say("Rename…"), this, [this, &arranger] {
        bool good = false;
        const scene::Group* g = session_.project().findGroup(group_);
        const QString name = QInputDialog::getText(this, say("Rename"), say("Name of the group"), QLineEdit::Normal,
                                                   g ? QString::fromStdString(g->name) : QString(), &good);
        if (good)
            arranger.renameGroup(group_, name);
    });
    menu.addAction(say("Duplicate"), this, [&arranger, members] { arranger.duplicate(members); });
    menu.addAction(say("Copy"), this, [&arranger, members] { arranger.copy(members); });
    menu.addAction(say("Save as recipe…"), this, [this, members] {
        session_.selection().setChosen(members);
        Q_EMIT recipeWanted();
    });
    menu.addAction(say("Dissolve: its elements stay"), this, [this, &arranger] { arranger.ungroup(group_); });
    menu.addSeparator();
    menu.addAction(say("Remove with its elements"), this, [&arranger, members] { arranger.remove(members); });
    menu.exec(e->globalPos());
}
} // namespace hygros::app
