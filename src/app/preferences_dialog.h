#pragma once
/// What the window's user prefers, for all projects: each change holds at once, or says from when.
#include "app/choices.h"
#include "app/commands.h"

#include <QDialog>
#include <functional>

class QLabel;
class QListWidget;
class QStackedWidget;
class QTreeWidget;
class QVBoxLayout;

namespace hygros::app {

class MainWindow;

class PreferencesDialog : public QDialog {
    Q_OBJECT
public:
    explicit PreferencesDialog(MainWindow& window);
    void showPage(int page);

private:
    /// A page's rows: a name at the left, what is chosen at the right, a line of words under it.
    QVBoxLayout* page(const QString& name);
    void row(QVBoxLayout* into, const QString& name, QWidget* field, const QString& words = {});
    void choice(QVBoxLayout* into, const char* name, const QString& label, const QStringList& all,
                const std::function<int(const Choices&)>& get, const std::function<void(Choices&, int)>& set,
                const QString& words = {});
    void amount(QVBoxLayout* into, const char* name, const QString& label, double least, double most, int decimals,
                const QString& unit, const std::function<double(const Choices&)>& get,
                const std::function<void(Choices&, double)>& set, const QString& words = {});
    void makeKeys(QVBoxLayout* into);
    void fillKeys();
    void restyle();
    void change(const std::function<void(Choices&)>& what);
    /// Takes over what is chosen now.
    void pull();

    MainWindow& window_;
    QListWidget* names_;
    QStackedWidget* pages_;
    QTreeWidget* keys_ = nullptr;
    QLabel* clash_ = nullptr;
    std::vector<std::function<void(const Choices&)>> pulls_;
    bool pulling_ = false;
};
} // namespace hygros::app
