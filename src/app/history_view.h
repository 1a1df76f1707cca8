#pragma once
/// The Bench page of the history: every step in words, with its time; a click goes there.
#include "app/session.h"

#include <QTimer>
#include <QWidget>

class QListWidget;

namespace hygros::app {

class HistoryView : public QWidget {
    Q_OBJECT
public:
    explicit HistoryView(Session& session, QWidget* parent = nullptr);

protected:
    void showEvent(QShowEvent*) override;

private:
    void fill();
    /// "Fog bank: top 4 m → 6.5 m", or the step's name where much was changed.
    QString words(std::size_t state) const;
    Session& session_;
    QListWidget* list_;
    QTimer timer_;
    bool filling_ = false;
};
} // namespace hygros::app
