#pragma once
/// What is baked of the open project, and the bakes that are under way.
#include "app/document.h"
#include "app/jobs.h"
#include "elements/bake.h"

#include <QThreadPool>
#include <QTimer>
#include <atomic>
#include <limits>
#include <map>
#include <mutex>
#include <optional>

namespace hygros::app {

class Baker : public QObject {
    Q_OBJECT
public:
    Baker(Document& document, Jobs& jobs, std::shared_ptr<Store> store, QObject* parent = nullptr);
    ~Baker() override;

    /// Of every element that is simulated: what is there, as last looked at.
    const std::map<std::string, elements::BakedSpan>& spans() const { return spans_; }
    /// In words: "12 of 100 frames, 1.2 MB"; why the rest is stale; how far a bake is.
    QString said(const std::string& element) const;

    /// Bakes an element, or goes on with it, as a job; frames stay when it is cancelled. What is changed meanwhile
    /// comes in with the next frame.
    void bake(const std::string& element);
    bool isBaking(const std::string& element) const { return runs_.count(element) > 0; }
    void cancel(const std::string& element);
    /// Forgets what is baked of an element and bakes it from its first frame.
    void again(const std::string& element);
    /// The picture shows a frame: the play head, going along with a bake, waits for it before it goes on.
    void pictureShows(int frame);
    /// Removes what is baked of an element; of all there is with an empty name.
    void purge(const std::string& element);
    /// Everything in the frame store, also of elements that are gone.
    std::vector<FrameStore::Contents> contents() const;
    QString folder() const;

Q_SIGNALS:
    void changed();
    void frameChanged(); ///< there is something else baked at the frame that is looked at
    void told(const QString& message);

private:
    /// A bake under way: what it is told, and how far it is.
    struct Run {
        int job = 0;
        scene::TimeSettings time;
        std::mutex mutex;
        std::shared_ptr<const scene::Project> next; ///< as it was changed since
        std::atomic<int> newest{std::numeric_limits<int>::min()};
        bool again = false, anew = false; ///< goes on once it has ended; from the first frame
        std::filesystem::path baked;
    };
    void look();
    void renew();
    void ended(const std::string& element);
    std::string frameNow() const;
    /// The play head goes along with what is baked, until it is put elsewhere.
    void watch();
    int watched_ = 0;
    std::optional<int> shown_;
    std::shared_ptr<const Run> watchedRun_;
    std::shared_ptr<FrameStore> frames() const;
    Document& document_;
    Jobs& jobs_;
    std::shared_ptr<Store> store_;
    std::map<std::string, elements::BakedSpan> spans_;
    std::map<std::string, std::shared_ptr<Run>> runs_;
    QTimer soon_, during_;
    QThreadPool pool_;
    bool looking_ = false, again_ = false;
    std::string atFrame_; ///< of all elements, at the frame that is looked at
};
} // namespace hygros::app
