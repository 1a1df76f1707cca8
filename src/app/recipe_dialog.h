#pragma once
/// Keeps the chosen elements as a recipe of one's own: its name, its words, the picture as it is now.
#include "app/session.h"

#include <QDialog>

class QCheckBox;
class QLineEdit;
class QPlainTextEdit;
class QPushButton;

namespace hygros::app {

class RecipeDialog : public QDialog {
    Q_OBJECT
public:
    explicit RecipeDialog(Session& session, QWidget* parent = nullptr);

Q_SIGNALS:
    void saved();

private:
    void save();
    Session& session_;
    std::vector<std::string> elements_;
    QImage picture_;
    QLineEdit* name_;
    QPlainTextEdit* words_;
    QCheckBox* stands_;
    QPushButton* save_;
};
} // namespace hygros::app
