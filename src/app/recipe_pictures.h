#pragma once
/// Small pictures of the present scene with each recipe in it, drawn while nothing else is to be done.
#include "app/session.h"

#include <QImage>
#include <QThreadPool>
#include <QTimer>
#include <deque>

namespace hygros::app {

class RecipePictures : public QObject {
    Q_OBJECT
public:
    static constexpr int width = 176, height = 99;
    explicit RecipePictures(Session& session, QObject* parent = nullptr);
    ~RecipePictures() override;
    /// Draws these, in this order, by their numbers; what was asked for before is given up.
    void want(const std::vector<scene::Recipe>& recipes);
    /// Nothing is to be drawn any more.
    bool isDone() const { return waiting_.empty() && !drawing_; }

Q_SIGNALS:
    void drawn(int number, const QImage& image);

private:
    void next();
    Session& session_;
    struct Wanted {
        int number;
        scene::Recipe recipe;
    };
    std::deque<Wanted> waiting_;
    std::shared_ptr<JobControl> job_;
    bool drawing_ = false;
    QTimer idle_;
    QThreadPool pool_;
};
} // namespace hygros::app
