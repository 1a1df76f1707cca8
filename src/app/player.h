#pragma once
/// Goes on in time: as fast as pictures are computed, or through pictures that a kept run has drawn, at the project's
/// own rate.
#include "app/kept_run.h"

#include <QElapsedTimer>
#include <QObject>
#include <QTimer>

namespace hygros::app {

class Player : public QObject {
    Q_OBJECT
public:
    Player(Document& document, Picture& picture, KeptRun& kept, QObject* parent = nullptr);

    enum class State { Still, Computed, Kept };
    State state() const { return state_; }
    /// From the frame that is looked at, round and round; a frame off the range begins at the first. Kept pictures are
    /// played where all of the range are there.
    void play();
    void stop();
    void toggle() { state_ == State::Still ? play() : stop(); }
    /// While kept pictures are played: frames that have come due since it began, by the clock that it plays to.
    double due() const;
    /// Frames a second over the last second; 0 while still.
    double rate() const { return rate_; }
    /// The picture that stands for the frame while kept ones are played; null otherwise.
    QImage shown() const;

Q_SIGNALS:
    void changed(); ///< begins, ends, or goes at another rate

private:
    void arrived();
    void tick();
    void count();
    int next(int frame) const;
    Document& document_;
    Picture& picture_;
    KeptRun& kept_;
    State state_ = State::Still;
    QTimer timer_;
    QElapsedTimer clock_, window_;
    int startedAt_ = 1, counted_ = 0;
    double rate_ = 0.0;
};
} // namespace hygros::app
