#pragma once
/// Where one begins: a shot that stands, a set, a plate; or a guided first fog. It stands in the Picture's place until
/// something is chosen.
#include <QWidget>

namespace hygros::app {

class FirstPage : public QWidget {
    Q_OBJECT
public:
    explicit FirstPage(QWidget* parent = nullptr);
    /// File of a demo project; empty where the demos are not installed.
    static QString demo(const QString& name);

Q_SIGNALS:
    void demoChosen(const QString& file);
    void setWanted();
    void emptyWanted();
    void plateWanted();
    void guideWanted();
    void closed();

protected:
    void keyPressEvent(QKeyEvent*) override;
};
} // namespace hygros::app
