#pragma once
/// Pictures of the frames of the range, drawn beside the window and kept in memory by the state that they show.
#include "app/document.h"
#include "app/jobs.h"
#include "app/picture.h"

#include <map>
#include <mutex>

namespace hygros::app {

class KeptRun : public QObject {
    Q_OBJECT
public:
    KeptRun(Document& document, Picture& picture, Jobs& jobs, std::shared_ptr<Store> store, QObject* parent = nullptr);

    /// Draws what of the range is missing or not true any more, with so many passes a picture; a job that can be
    /// cancelled, and keeps what it has drawn. Does nothing while one is under way.
    void draw(int passes);
    bool isDrawing() const { return job_ != 0; }
    void cancel();
    void clear();

    enum class State { Missing, Stale, There };
    State state(int frame) const;
    /// Of all frames that are kept.
    const std::map<int, State>& states() const { return states_; }
    /// All frames of the range are there and show what the project says now.
    bool isWhole() const;
    /// Null where there is none that is true.
    QImage image(int frame) const;
    std::size_t bytes() const;
    /// The most that is kept [bytes]; frames that come later than fit are not drawn, and that is said.
    static constexpr std::size_t limit = std::size_t{3} << 30;

    /// Writes them as a movie file through the program `ffmpeg`, or as numbered PNG where the name has #; as a job.
    /// Says what is missing: frames, or the program.
    void write(const QString& file);

Q_SIGNALS:
    void changed();
    void failed(const QString& message);
    void told(const QString& message);

private:
    struct Kept {
        QImage image;
        std::string state;
    };
    void judge();
    void judgeSoon();
    void judgeSome();
    std::string stateOf(const scene::Project& whole, int frame) const;
    Document& document_;
    Picture& picture_;
    Jobs& jobs_;
    std::shared_ptr<Store> store_;
    std::map<int, Kept> kept_;
    std::map<int, State> states_; ///< of those that are kept, as the project stands now
    QTimer judgeSoon_;            ///< runs until all are judged
    int judgeFrom_ = 0;
    int job_ = 0;
};
} // namespace hygros::app
