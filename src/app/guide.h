#pragma once
/// A guided first fog: one step after another is said, and the next comes once the artist has done it.
#include "app/session.h"

#include <QWidget>
#include <functional>

class QLabel;
class QPushButton;

namespace hygros::app {

class Guide : public QWidget {
    Q_OBJECT
public:
    explicit Guide(Session& session, QWidget* parent = nullptr);
    int step() const { return step_; }
    int count() const { return static_cast<int>(steps_.size()); }
    QString words() const;

Q_SIGNALS:
    void ended();

private:
    struct Step {
        QString words;
        std::function<bool()> isDone; ///< null: it is read, and gone on from
    };
    void show(int step);
    void look();
    const scene::Element* fog() const;
    Session& session_;
    std::vector<Step> steps_;
    int step_ = 0;
    std::size_t proofs_ = 0, pins_ = 0;
    double top_ = 0.0, visibility_ = 0.0; ///< when its step began
    QLabel *text_, *number_;
    QPushButton *next_, *end_;
};
} // namespace hygros::app
