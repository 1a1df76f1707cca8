#pragma once
/// Everything that the menus do, by name: for the finder, and for keys of one's own.
#include <QKeySequence>
#include <QString>
#include <vector>

class QAction;
class QMenuBar;

namespace hygros::app {

struct Command {
    QAction* action;
    QString id;   ///< "View/Aids over the picture"; stays the same in every language and whatever the action says now
    QString path; ///< "View ▸ Aids over the picture", as it stands in the menu
    QKeySequence delivered;
};
/// To be called once the menus are made: gives commands their ids and puts on the keys that were chosen.
void nameCommands(QMenuBar& menus);
/// Those that were there then, in the order of the menus.
std::vector<Command> commandsOf(const QMenuBar& menus);
/// Another command with these keys; null where there is none.
const Command* clashOf(const std::vector<Command>& all, const QString& id, const QKeySequence& keys);
/// From now on, and in windows to come. Keys that another command had are taken from it.
void setKeys(const std::vector<Command>& all, const QString& id, const QKeySequence& keys);
/// All as delivered.
void resetKeys(const std::vector<Command>& all);
} // namespace hygros::app
