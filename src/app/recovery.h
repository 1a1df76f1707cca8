#pragma once
/// What was not saved, kept beside the artist's files: written within a second of every edit, gone once it is saved or
/// the window is closed, and offered at the next start when it was not.
#include "app/document.h"
#include "app/picture.h"

#include <QImage>
#include <QLockFile>
#include <condition_variable>
#include <mutex>
#include <thread>

namespace hygros::app {

class Recovery : public QObject {
    Q_OBJECT
public:
    Recovery(Document& document, Picture& picture, QObject* parent = nullptr);
    /// The window is closed in order: nothing is to be recovered.
    ~Recovery() override;

    /// Unsaved work that a window left behind which is not running any more.
    struct Found {
        QString journal;    ///< its file
        QString name, file; ///< of the project; the file is empty when it was never saved
        QString time;
        QImage picture; ///< small; may be null
    };
    static std::vector<Found> found();
    /// The project as it was. Throws Error when the journal is damaged.
    static scene::Project read(const QString& journal);
    /// The file that the project was saved in; empty when it never was.
    static QString fileOf(const QString& journal);
    static void discard(const QString& journal);
    static QString folder();
    /// Where this window writes.
    QString journal() const { return journal_; }

Q_SIGNALS:
    void failed(const QString& message);

private:
    struct State {
        scene::Project project;
        Document::Proofs proofs;
        QString file;
        QImage picture;
    };
    void keep();
    void write(const State& state) const;
    void loop();

    Document& document_;
    Picture& picture_;
    QString journal_;
    std::unique_ptr<QLockFile> lock_;
    QTimer timer_;
    bool told_ = false;
    std::mutex mutex_;
    std::condition_variable wake_;
    std::optional<State> next_;
    bool drop_ = false, quit_ = false;
    std::thread thread_;
};
} // namespace hygros::app
