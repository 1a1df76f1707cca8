#include "app/commands.h"

#include "app/words.h"

#include <QAction>
#include <QMenu>
#include <QMenuBar>
#include <QSettings>

namespace hygros::app {
namespace {
constexpr auto idOf = "commandId", deliveredOf = "deliveredKeys";
const QString group = "keys/";

template <class Use> void walk(const QMenu& menu, const QString& path, const QString& id, const Use& use)
{
    for (QAction* a : menu.actions()) {
        if (a->isSeparator())
            continue;
        const QString text = a->text().remove('&');
        if (a->menu())
            walk(*a->menu(), path + text + " ▸ ", id + englishOf(text) + "/", use);
        else
            use(a, path + text, id + englishOf(text));
    }
}
template <class Use> void walk(const QMenuBar& menus, const Use& use)
{
    for (const QAction* a : menus.actions())
        if (a->menu())
            walk(*a->menu(), a->text() + " ▸ ", englishOf(a->text()) + "/", use);
}
void keep(const Command& c, const QKeySequence& keys)
{
    c.action->setShortcut(keys);
    QSettings s;
    if (keys == c.delivered)
        s.remove(group + c.id);
    else
        s.setValue(group + c.id, keys.toString(QKeySequence::PortableText));
}
} // namespace

void nameCommands(QMenuBar& menus)
{
    const QSettings s;
    walk(menus, [&](QAction* a, const QString&, const QString& id) {
        a->setProperty(idOf, id);
        a->setProperty(deliveredOf, a->shortcut().toString(QKeySequence::PortableText));
        if (const QVariant chosen = s.value(group + id); chosen.isValid())
            a->setShortcut(QKeySequence(chosen.toString(), QKeySequence::PortableText));
    });
}

std::vector<Command> commandsOf(const QMenuBar& menus)
{
    std::vector<Command> out;
    walk(menus, [&](QAction* a, const QString& path, const QString&) {
        if (const QVariant id = a->property(idOf); id.isValid())
            out.push_back({a, id.toString(), path,
                           QKeySequence(a->property(deliveredOf).toString(), QKeySequence::PortableText)});
    });
    return out;
}

const Command* clashOf(const std::vector<Command>& all, const QString& id, const QKeySequence& keys)
{
    for (const Command& c : all)
        if (!keys.isEmpty() && c.id != id && c.action->shortcut() == keys)
            return &c;
    return nullptr;
}

void setKeys(const std::vector<Command>& all, const QString& id, const QKeySequence& keys)
{
    if (const Command* other = clashOf(all, id, keys))
        keep(*other, {});
    for (const Command& c : all)
        if (c.id == id)
            keep(c, keys);
}

void resetKeys(const std::vector<Command>& all)
{
    for (const Command& c : all)
        keep(c, c.delivered);
}
} // namespace hygros::app
