#include "app/setting_box.h"

#include "app/words.h"

#include <QCompleter>
#include <QLineEdit>

namespace hygros::app {

SettingBox::SettingBox(Session& session, const QString& none, QWidget* parent)
    : QComboBox(parent), session_(session), none_(none)
{
    setEditable(true);
    setInsertPolicy(QComboBox::NoInsert);
    setMaxVisibleItems(18);
    completer()->setCompletionMode(QCompleter::PopupCompletion);
    completer()->setFilterMode(Qt::MatchContains);
    completer()->setCaseSensitivity(Qt::CaseInsensitive);
    // What was typed and is no setting gives way to what was chosen.
    connect(lineEdit(), &QLineEdit::editingFinished, this, [this] {
        if (const int i = findText(lineEdit()->text(), Qt::MatchFixedString); i < 0)
            lineEdit()->setText(itemText(currentIndex()));
        else if (i != currentIndex())
            setCurrentIndex(i);
    });
}

void SettingBox::fill()
{
    const QSignalBlocker quiet(this);
    const std::string was = path();
    clear();
    if (!none_.isEmpty())
        addItem(none_, QString());
    const scene::Project& project = session_.project();
    for (const scene::Element& e : project.elements) {
        const QString name = QString::fromStdString(e.name);
        for (const scene::Parameter& p : e.kind->parameters) {
            const std::string path = e.id + "." + p.id;
            if (scene::applies(e.kind->parameters, p, *e.settings) && !elements::bracketWays(project, path).empty())
                addItem(name + ": " + QString::fromStdString(p.label), QString::fromStdString(path));
        }
        if (!e.kind->permanent)
            addItem(name + say(": with and without"), QString::fromStdString(e.id + ".muted"));
    }
    addItem(say("Frame"), "frame");
    setPath(was);
}

std::string SettingBox::path() const { return currentData().toString().toStdString(); }

void SettingBox::setPath(const std::string& path)
{
    const int i = findData(QString::fromStdString(path));
    setCurrentIndex(i >= 0 ? i : 0);
}
} // namespace hygros::app
