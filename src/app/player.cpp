#include "app/player.h"

#include <cmath>

namespace hygros::app {

Player::Player(Document& document, Picture& picture, KeptRun& kept, QObject* parent)
    : QObject(parent), document_(document), picture_(picture), kept_(kept)
{
    timer_.setTimerType(Qt::PreciseTimer);
    connect(&timer_, &QTimer::timeout, this, &Player::tick);
    connect(&picture, &Picture::pictureChanged, this, &Player::arrived);
    connect(&document, &Document::projectReplaced, this, &Player::stop);
}

int Player::next(int frame) const
{
    const scene::TimeSettings& t = document_.project().time;
    return frame < t.first || frame >= t.last ? t.first : frame + 1;
}

void Player::play()
{
    stop();
    const scene::TimeSettings& t = document_.project().time;
    state_ = kept_.isWhole() ? State::Kept : State::Computed;
    if (document_.frame() < t.first || document_.frame() >= t.last)
        document_.setFrame(t.first);
    window_.start();
    counted_ = 0;
    if (state_ == State::Kept) {
        startedAt_ = document_.frame();
        clock_.start();
        timer_.start(std::max(1, static_cast<int>(250.0 / t.rate.perSecond()))); // looks four times a frame
    } else {
        arrived();
    }
    Q_EMIT changed();
}

void Player::stop()
{
    if (state_ == State::Still)
        return;
    timer_.stop();
    state_ = State::Still;
    rate_ = 0.0;
    Q_EMIT changed();
}

void Player::count()
{
    ++counted_;
    if (const qint64 ms = window_.elapsed(); ms >= 1000) {
        rate_ = counted_ * 1000.0 / static_cast<double>(ms);
        counted_ = 0;
        window_.start();
        Q_EMIT changed();
    }
}

void Player::arrived()
{
    // The first picture of a frame is enough to go on.
    if (state_ != State::Computed || picture_.state().frame != document_.frame())
        return;
    count();
    document_.setFrame(next(document_.frame()));
}

double Player::due() const
{
    return static_cast<double>(clock_.nsecsElapsed()) * 1e-9 * document_.project().time.rate.perSecond();
}

void Player::tick()
{
    const scene::TimeSettings& t = document_.project().time;
    const int length = t.last - t.first + 1;
    const auto on = static_cast<qint64>(std::floor(due()));
    const int frame = t.first + static_cast<int>((startedAt_ - t.first + on) % length);
    if (frame == document_.frame())
        return;
    if (!kept_.isWhole()) // an edit came between
        return play();
    count();
    document_.setFrame(frame);
}

QImage Player::shown() const { return state_ == State::Kept ? kept_.image(document_.frame()) : QImage(); }
} // namespace hygros::app
