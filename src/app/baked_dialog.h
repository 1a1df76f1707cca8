#pragma once
/// Everything in the project's frame store, with sizes.
#include <QDialog>

class QGridLayout;
class QLabel;

namespace hygros::app {
class Session;

class BakedDialog : public QDialog {
    Q_OBJECT
public:
    explicit BakedDialog(Session& session, QWidget* parent = nullptr);

private:
    void fill();
    Session& session_;
    QWidget* list_ = nullptr;
    QLabel* foot_;
};
} // namespace hygros::app
