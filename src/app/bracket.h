#pragma once
/// A bracket in work: pictures of one setting over a range, or of two crossed, which get better together.
#include "app/document.h"
#include "app/picture.h"
#include "elements/bracket.h"
#include "render/sheet.h"

#include <QImage>
#include <QTimer>
#include <thread>

namespace hygros::app {

class Bracket : public QObject {
    Q_OBJECT
public:
    Bracket(Document& document, Picture& picture, std::shared_ptr<Store> store, QObject* parent = nullptr);
    ~Bracket() override;

    struct Tile {
        QImage image; ///< null before there is one
        std::vector<std::uint8_t> rgb;
        int samples = -1; ///< 0: coarse
        bool isLast = false;
        QString trouble;
        QString words; ///< its values: "640 m · 12 m"
    };
    /// Begins, or begins anew, with tiles that fit into `area`. False and a message where it cannot be stepped so; what
    /// was there stays.
    bool begin(const elements::BracketWish& over, const elements::BracketWish& across, const QSize& area);
    /// Another size to fit into: tiles are drawn anew once it has been so for a while.
    void setArea(const QSize& area);
    void end();
    bool isOn() const { return !tiles_.empty(); }
    bool isCrossed() const { return across_.size() > 0; }
    int columns() const { return columns_; }
    int rows() const { return (static_cast<int>(tiles_.size()) + columns_ - 1) / std::max(1, columns_); }
    const elements::BracketAxis& over() const { return over_; }
    const elements::BracketAxis& across() const { return across_; }
    const std::vector<Tile>& tiles() const { return tiles_; }
    QSize tileSize() const { return tileSize_; }
    double progress() const;
    bool isDone() const;
    int samples() const { return samples_; }
    void setSamples(int samples) { samples_ = samples; }

    /// The tile whose values are those of the project now; −1 where none is.
    int present() const;
    /// A tile's values into the project, as one step that can be undone. Of frames: the frame is looked at.
    bool take(int tile);
    /// One tile drawn as large as fits; −1 ends it.
    void enlarge(int tile);
    int enlarged() const { return enlarged_; }
    const QImage& enlargedImage() const { return large_; }
    /// As one picture with its words, written whole or not at all. False and a message.
    bool write(const QString& file);

Q_SIGNALS:
    void changed();
    void failed(const QString& message);

private:
    struct Work {
        JobControl job;
        std::thread thread;
    };
    std::unique_ptr<Work> work(std::vector<std::size_t> which, const QSize& size,
                               std::function<void(std::size_t, render::SheetTile)> take);
    static void stop(std::unique_ptr<Work>& work);
    void draw();
    void layOut();
    Document& document_;
    Picture& picture_;
    std::shared_ptr<Store> store_;
    elements::BracketAxis over_, across_;
    elements::BracketWish overWish_, acrossWish_;
    std::vector<Tile> tiles_;
    QSize area_, tileSize_;
    int columns_ = 1, samples_ = 16, enlarged_ = -1;
    QImage large_;
    QTimer later_;
    std::uint64_t turn_ = 0; ///< pictures of earlier ones are of something else
    bool taking_ = false;
    std::unique_ptr<Work> sheet_, one_;
};
} // namespace hygros::app
