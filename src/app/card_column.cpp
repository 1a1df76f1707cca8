#include "app/card_column.h"

#include "app/editors.h"
#include "app/theme.h"
#include "app/words.h"
#include "reading/transect.h"

#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace hygros::app {
using scene::Family;

FamilyRail::FamilyRail(QWidget* parent) : QWidget(parent)
{
    const Theme& t = Theme::now();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(1, 6, 0, 6);
    column->setSpacing(4);
    setFixedWidth(60);
    for (const Family f : Library::families()) {
        auto* b = new QToolButton(this);
        const QString name = nameOf(scene::familyName(f));
        b->setText(name);
        b->setObjectName("family:" + QString::fromStdString(scene::familyName(f)));
        b->setIcon(familyIcon(f));
        b->setIconSize({24, 24});
        b->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
        b->setCheckable(true);
        b->setAutoExclusive(true);
        b->setFont(textFont(11));
        b->setFixedSize(58, 56);
        b->setStyleSheet(
            QString("QToolButton{border:none;background:transparent;color:%1;padding-top:5px}"
                    "QToolButton:checked{background:%2;color:%3;border-right:2px solid %4}QToolButton:focus{color:%4}")
                .arg(t.quiet.name(), t.raised.name(), t.text.name(), t.accent.name()));
        connect(b, &QToolButton::clicked, this, [this, f] { Q_EMIT chosen(f); });
        column->addWidget(b);
        entries_.emplace_back(f, b);
    }
    column->addStretch(1);
}

void FamilyRail::choose(Family family)
{
    for (const auto& [f, widget] : entries_)
        static_cast<QToolButton*>(widget)->setChecked(f == family);
}

CardColumn::CardColumn(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    const Theme& t = Theme::now();
    setFixedWidth(318);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(10, 8, 4, 6);
    column->setSpacing(6);
    auto* head = new QHBoxLayout;
    auto* words = new QVBoxLayout;
    words->setSpacing(1);
    title_ = new QLabel(this);
    title_->setFont(textFont(15, QFont::DemiBold));
    summary_ = new QLabel(this);
    summary_->setFont(textFont(11));
    summary_->setStyleSheet("color:" + t.quiet.name());
    words->addWidget(title_);
    words->addWidget(summary_);
    head->addLayout(words, 1);
    auto* right = new QVBoxLayout;
    right->setSpacing(1);
    sees_ = new QLabel(this);
    sees_->setFont(figureFont(11));
    sees_->setAlignment(Qt::AlignRight);
    sees_->setStyleSheet("color:" + t.text.name());
    sees_->setToolTip(
        say("How far one sees from the camera, level along its heading, through all the air: contrast is 5 % there."));
    add_ = new QPushButton(say("+ add"), this);
    add_->setFlat(true);
    add_->setObjectName("add");
    add_->setFont(textFont(12, QFont::DemiBold));
    add_->setStyleSheet(QString("QPushButton{border:none;color:%1;text-align:right;padding:1px "
                                "2px}QPushButton:focus{text-decoration:underline}"
                                "QPushButton::menu-indicator{width:0}")
                            .arg(t.accent.name()));
    right->addWidget(sees_);
    right->addWidget(add_);
    head->addLayout(right);
    column->addLayout(head);
    auto* search = new QHBoxLayout;
    search->setSpacing(6);
    find_ = new QLineEdit(this);
    find_->setObjectName("findSetting");
    find_->setAccessibleName(say("Find a setting"));
    find_->setPlaceholderText(say("find a setting"));
    find_->setClearButtonEnabled(true);
    find_->setFont(textFont(11));
    find_->setStyleSheet(
        QString("QLineEdit{border:1px solid %1;background:%2;color:%3;padding:2px 6px}QLineEdit:focus{border-color:%4}")
            .arg(t.rule.name(), t.field.name(), t.text.name(), t.accent.name()));
    changed_ = new QPushButton(say("changed"), this);
    changed_->setObjectName("changedOnly");
    changed_->setCheckable(true);
    changed_->setFont(textFont(11));
    changed_->setStyleSheet(plainButton());
    changed_->setToolTip(say("Only settings that differ from those of a new element."));
    search->addWidget(find_, 1);
    search->addWidget(changed_);
    column->addLayout(search);
    connect(find_, &QLineEdit::textChanged, this, &CardColumn::applyFilter);
    connect(changed_, &QPushButton::toggled, this, &CardColumn::applyFilter);
    auto* scroll = scroll_ = new QScrollArea(this);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFocusPolicy(Qt::NoFocus);
    auto* inner = new QWidget(scroll);
    list_ = new QVBoxLayout(inner);
    list_->setContentsMargins(0, 0, 6, 0);
    list_->setSpacing(8);
    empty_ = new QLabel(inner);
    empty_->setWordWrap(true);
    empty_->setStyleSheet(QString("color:%1;padding:14px 6px").arg(t.quiet.name()));
    list_->addWidget(empty_);
    recipes_ = new QPushButton(say("Recipes…"), inner);
    recipes_->setObjectName("recipes");
    recipes_->setToolTip(
        say("Whole set-ups to begin with. Resting on one shows it in the Picture before it is taken."));
    recipes_->setStyleSheet(QString("QPushButton{border:1px dashed "
                                    "%1;background:transparent;color:%2;padding:9px}QPushButton:hover,QPushButton:"
                                    "focus{color:%3;border-color:%3}"
                                    "QPushButton::menu-indicator{width:0}")
                                .arg(t.rule.name(), t.text.name(), t.accent.name()));
    list_->addWidget(recipes_);
    fillRecipes();
    list_->addStretch(1);
    scroll->setWidget(inner);
    column->addWidget(scroll, 1);
    connect(&session.document(), &Document::projectReplaced, this, [this] {
        open_.clear();
        rebuild();
    });
    connect(&session.document(), &Document::projectChanged, this, &CardColumn::refresh);
    connect(&session.document(), &Document::frameChanged, this, &CardColumn::refresh);
    connect(&session.picture(), &Picture::shotChanged, this, &CardColumn::tellHowFarOneSees);
    connect(&session, &Session::brought, this, [this](const QString& id) {
        if (Card* c = reveal(id.toStdString()))
            c->setOpen(true);
    });
    rebuild();
}

void CardColumn::fillRecipes()
{
    delete recipes_->menu();
    auto* menu = new QMenu(recipes_);
    menu->setToolTipsVisible(true);
    auto* fit = menu->addAction(say("Fit to the set's depth"));
    fit->setObjectName("fitRecipes");
    fit->setCheckable(true);
    fit->setToolTip(say("Multiplies a recipe's distances so that they suit the depth of what the Picture shows."));
    fit->setChecked(session_.library().fits());
    connect(fit, &QAction::toggled, this, [this](bool on) { session_.library().setFits(on); });
    menu->addSeparator();
    bool matter = false, own = false;
    int shown = 0;
    for (const scene::Recipe& r : session_.library().recipes()) {
        if (Library::familyOf(r) != family_)
            continue;
        ++shown;
        const auto recipe = std::make_shared<scene::Recipe>(r);
        if (Library::isOwn(r) && !own) {
            own = true;
            menu->addSection(say("Your own"));
        }
        if (r.stands > 0.0 && family_ == Family::Air && !matter && !own) {
            matter = true;
            menu->addSection(say("Matter before the camera"));
        }
        QAction* a = menu->addAction(nameOf(r.name));
        const QString words = nameOf(r.help);
        a->setToolTip(r.picture.empty() ? words
                                        : say("<img src=\"data:image/png;base64,%1\"><br>%2")
                                              .arg(QString::fromStdString(r.picture), words.toHtmlEscaped()));
        connect(a, &QAction::hovered, this, [this, recipe] { session_.library().preview(recipe.get()); });
        connect(a, &QAction::triggered, this, [this, recipe] { session_.take(*recipe); });
    }
    // Without a choice the picture goes back to the project.
    connect(menu, &QMenu::aboutToHide, this,
            [this] { QTimer::singleShot(0, this, [this] { session_.library().preview(nullptr); }); });
    connect(menu, &QMenu::aboutToShow, this, [this, fit] {
        const double depth = static_cast<double>(session_.picture().depthQuantile(0.9));
        fit->setEnabled(depth > 0.0);
        fit->setText(depth > 0.0 ? say("Fit to the set's depth: ") +
                                       QString::fromStdString(formatQuantity(depth, Quantity::Length))
                                 : say("Fit to the set's depth"));
    });
    recipes_->setMenu(menu);
    recipes_->setVisible(shown > 0);
}

void CardColumn::tellHowFarOneSees()
{
    const auto shot = session_.picture().shot();
    const float sees = shot && family_ == Family::Air && !shot->media.empty() ? reading::seesTo(*shot) : 0.f;
    sees_->setText(sees <= 0.f        ? QString()
                   : std::isinf(sees) ? say("sees over 100 km")
                                      : say("sees ") + QString::fromStdString(formatQuantity(sees, Quantity::Length)));
}

void CardColumn::showFamily(Family family)
{
    family_ = family;
    fillRecipes();
    rebuild();
    tellHowFarOneSees();
    Q_EMIT familyShown(family);
}

void CardColumn::rebuild()
{
    for (Card* c : cards_)
        c->leave();
    cards_.clear();
    auto* menu = new QMenu(add_);
    for (const elements::Kind& k : elements::kinds())
        if (k.family == family_) {
            if (k.single && std::any_of(session_.project().elements.begin(), session_.project().elements.end(),
                                        [&](const scene::Element& e) { return e.kind->id == k.id; }))
                continue;
            QAction* a = menu->addAction(QString::fromStdString(k.label), this, [this, id = k.id] { add(id); });
            a->setToolTip(QString::fromStdString(k.help));
        }
    delete add_->menu();
    add_->setMenu(menu);
    add_->setVisible(!menu->isEmpty());
    for (GroupHead* h : heads_) {
        h->hide();
        h->deleteLater();
    }
    heads_.clear();
    layout_ = wantedLayout();
    int at = 0;
    for (const std::string& id : layout_) {
        QWidget* w = id[0] == '#' ? makeHead(*session_.project().findGroup(id.substr(1)))
                                  : makeCard(*session_.project().find(id));
        list_->insertWidget(at++, w);
    }
    empty_->setVisible(cards_.empty());
    empty_->setText(
        family_ == Family::Air
            ? say("The air is clear. Add a haze to see the distance recede, or a fog bank to lie on the ground.")
        : family_ == Family::Lights ? say("It is dark. Add the sun, or a spot lamp.")
        : family_ == Family::Fire   ? say("Nothing burns. Add a plume and a feed for it, or one of the fires that "
                                            "Insert shows.")
                                    : say("Nothing here yet."));
    refresh();
}

void CardColumn::refresh()
{
    if (wantedLayout() != layout_)
        return rebuild();
    for (GroupHead* h : heads_)
        h->update();
    for (Card* c : cards_)
        c->refresh();
    title_->setText(nameOf(scene::familyName(family_)));
    const auto silent = std::count_if(
        session_.project().elements.begin(), session_.project().elements.end(), [&](const scene::Element& e) {
            return e.kind->family == family_ && session_.project().silent(e) && !elements::kindOf(e).staysWhenSilent;
        });
    const auto count = std::count_if(session_.project().elements.begin(), session_.project().elements.end(),
                                     [&](const scene::Element& e) { return e.kind->family == family_; });
    summary_->setText((count == 1 ? say("1 element") : say("%1 elements").arg(count)) +
                      (silent ? say(" · %1 silent").arg(silent) : QString()));
}

Card* CardColumn::reveal(const std::string& element)
{
    const scene::Element* e = session_.project().find(element);
    if (!e)
        return nullptr;
    if (const scene::Group* g = session_.project().findGroup(e->group); g && g->folded)
        session_.arranger().setGroupFlag(g->id, &scene::Group::folded, false);
    if (e->kind->family != family_)
        showFamily(e->kind->family);
    for (Card* c : cards_)
        if (c->element() == element)
            return c;
    return nullptr;
}

void CardColumn::scrollTo(Card* card)
{
    // Once the cards have their places.
    QTimer::singleShot(60, card, [this, card] {
        const int room = scroll_->viewport()->height() - card->height();
        if (room >= 0)
            scroll_->ensureWidgetVisible(card, 0, room / 2);
        else // its head first
            scroll_->verticalScrollBar()->setValue(card->mapTo(scroll_->widget(), QPoint(0, 0)).y());
    });
}

bool CardColumn::showField(const std::string& element, const std::string& parameter)
{
    find_->clear();
    changed_->setChecked(false);
    if (!reveal(element))
        return false;
    if (Card* card = reveal(element))
        card->setOpen(true);
    Card* card = reveal(element);
    QWidget* field = card ? card->field(parameter) : nullptr;
    if (!field)
        return false;
    QTimer::singleShot(60, field, [this, field] {
        scroll_->ensureWidgetVisible(field, 0, scroll_->viewport()->height() / 3);
        field->setFocus(Qt::TabFocusReason);
        if (!field->hasFocus()) // it is a row of several: the first of them that takes it
            for (auto* w : field->findChildren<QWidget*>())
                if (w->focusPolicy() & Qt::TabFocus) {
                    w->setFocus(Qt::TabFocusReason);
                    break;
                }
    });
    return true;
}

void CardColumn::add(const std::string& id)
{
    const elements::Kind& kind = *elements::findKind(id);
    if (family_ != kind.family)
        showFamily(kind.family);
    if (!kind.begin && kind.bring) {
        const QString file = QFileDialog::getOpenFileName(this, say("Import a ") + inText(kind.label), {},
                                                          QString::fromStdString(kind.brings));
        if (!file.isEmpty())
            session_.bring(kind, file);
        return;
    }
    session_.add(kind);
    if (Card* c = reveal(session_.selection().selected()))
        c->setOpen(true);
}
} // namespace hygros::app
