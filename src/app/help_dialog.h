#pragma once
/// What every setting does: its words, its unit, what it may be, how it is set from a command line. Made from the same
/// tables as the cards.
#include "elements/kinds.h"

#include <QDialog>

class QLineEdit;
class QTextBrowser;
class QTreeWidget;

namespace hygros::app {

class HelpDialog : public QDialog {
    Q_OBJECT
public:
    explicit HelpDialog(QWidget* parent = nullptr);
    /// A kind of element, or one of its settings.
    void showSetting(const std::string& kind, const std::string& parameter = {});
    /// What has the focus: the setting whose field it is, or its card's kind. False where it is of no card.
    bool showFor(QWidget* focused);
    QString words() const;

private:
    void fill();
    void search(const QString& text);
    void tell();
    QLineEdit* find_;
    QTreeWidget* list_;
    QTextBrowser* text_;
};
} // namespace hygros::app
