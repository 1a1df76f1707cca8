#pragma once
/// One line in which everything is found by typing a part of its name: what the menus do, every setting of every card,
/// pages of the Bench, what can be added, cards to mute or solo. A setting with a value after it is set: "mist
/// visibility 300 m".
#include "app/commands.h"
#include "app/session.h"

#include <QDialog>
#include <functional>

class QLabel;
class QLineEdit;
class QListWidget;

namespace hygros::app {

class MainWindow;

class Finder : public QDialog {
    Q_OBJECT
public:
    explicit Finder(MainWindow& window);

    struct Entry {
        QString text, beside; ///< what it is, and what stands at the right: keys, a value
        QString words;        ///< what it is found by, beside the text
        std::function<void()> act;
        int rank = 0; ///< larger comes later where both fit as well
    };
    const std::vector<Entry>& found() const { return found_; }

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void gather();
    void search();
    /// What typing a value after a setting's name would do; nothing where that is no value of it.
    void offerValues(const QString& typed);
    void take(int row);
    MainWindow& window_;
    QLineEdit* line_;
    QListWidget* list_;
    QLabel* none_;
    struct Setting {
        std::string element, parameter;
        QString text;
    };
    std::vector<Setting> settings_;
    std::vector<Entry> all_, found_;
};
} // namespace hygros::app
