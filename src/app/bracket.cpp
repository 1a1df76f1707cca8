#include "app/bracket.h"

#include "app/post.h"
#include "app/words.h"
#include "elements/kinds.h"
#include "finish/contact_sheet.h"
#include "finish/display.h"
#include "image/image.h"
#include "scene/evaluate.h"

#include <algorithm>
#include <cmath>

namespace hygros::app {

Bracket::Bracket(Document& document, Picture& picture, std::shared_ptr<Store> store, QObject* parent)
    : QObject(parent), document_(document), picture_(picture), store_(std::move(store))
{
    later_.setSingleShot(true);
    later_.setInterval(350);
    connect(&later_, &QTimer::timeout, this, &Bracket::draw);
    // What is stepped was edited beside: what the tiles were of is not so any more.
    const auto anew = [this] {
        if (isOn() && !taking_)
            later_.start();
        if (isOn())
            Q_EMIT changed();
    };
    connect(&document, &Document::projectChanged, this, anew);
    connect(&document, &Document::frameChanged, this, [this, anew] {
        if (over_.path != "frame" && across_.path != "frame")
            anew();
    });
    connect(&picture, &Picture::cameraChanged, this, anew);
    connect(&document, &Document::projectReplaced, this, &Bracket::end);
}

Bracket::~Bracket() { end(); }

void Bracket::stop(std::unique_ptr<Work>& work)
{
    if (!work)
        return;
    work->job.cancel();
    work->thread.join();
    work.reset();
}

void Bracket::end()
{
    ++turn_;
    later_.stop();
    stop(sheet_);
    stop(one_);
    const bool was = isOn();
    tiles_.clear();
    over_ = across_ = {};
    enlarged_ = -1;
    large_ = QImage();
    if (was)
        Q_EMIT changed();
}

bool Bracket::begin(const elements::BracketWish& over, const elements::BracketWish& across, const QSize& area)
{
    elements::BracketAxis first, second;
    try {
        first = elements::bracketAxis(document_.project(), over);
        if (!across.path.empty()) {
            if (across.path == over.path)
                throw std::invalid_argument(said("A setting cannot be crossed with itself."));
            second = elements::bracketAxis(document_.project(), across);
        }
        if (first.size() * std::max<std::size_t>(1, second.size()) > elements::bracketTilesMost)
            throw std::invalid_argument(said("A bracket holds ") + std::to_string(elements::bracketTilesMost) +
                                        said(" tiles: take fewer steps."));
    } catch (const std::exception& bad) {
        Q_EMIT failed(troubleOf(bad));
        return false;
    }
    overWish_ = over;
    acrossWish_ = across;
    over_ = first;
    across_ = second;
    area_ = area;
    tiles_.assign(over_.size() * std::max<std::size_t>(1, across_.size()), {});
    for (std::size_t i = 0; i < tiles_.size(); ++i) {
        tiles_[i].words = QString::fromStdString(over_.shown[i % over_.size()]);
        if (isCrossed())
            tiles_[i].words += " · " + QString::fromStdString(across_.shown[i / over_.size()]);
    }
    enlarged_ = -1;
    draw();
    return true;
}

void Bracket::setArea(const QSize& area)
{
    if (area == area_)
        return;
    area_ = area;
    if (isOn())
        later_.start();
}

void Bracket::layOut()
{
    const QSize whole = picture_.size();
    const double aspect = double(std::max(8, whole.width())) / std::max(8, whole.height());
    columns_ = isCrossed()
                   ? static_cast<int>(over_.size())
                   : finish::sheetColumns(tiles_.size(), aspect, double(area_.width()) / std::max(1, area_.height()));
    constexpr int gap = 8, label = 20;
    const int wide = (area_.width() - gap * (columns_ - 1)) / columns_ - (isCrossed() ? 90 / columns_ : 0),
              high = (area_.height() - (gap + label) * rows()) / std::max(1, rows());
    const int w = std::max(64, std::min(wide, static_cast<int>(high * aspect)));
    tileSize_ = QSize(w, std::max(36, static_cast<int>(std::lround(w / aspect))));
}

std::unique_ptr<Bracket::Work> Bracket::work(std::vector<std::size_t> which, const QSize& size,
                                             std::function<void(std::size_t, render::SheetTile)> take)
{
    auto out = std::make_unique<Work>();
    out->thread = std::thread([this, &job = out->job, which = std::move(which), size, take = std::move(take),
                               project = document_.whole(), over = over_, across = across_, samples = samples_,
                               camera = picture_.freeCamera()] {
        render::SheetWish wish{which.size(), size.width(), size.height(), samples, {}};
        wish.shot = [&](std::size_t i) {
            const std::size_t tile = which[i];
            scene::Project p = elements::bracketed(project, over, tile % over.size(), *store_);
            if (across.size() > 0)
                p = elements::bracketed(std::move(p), across, tile / over.size(), *store_);
            return elements::freeze(p, *store_, job, elements::Missing::Told, camera);
        };
        try {
            render::renderSheet(wish, job, [&](render::SheetTile tile) {
                const std::size_t of = which[tile.which];
                take(of, std::move(tile));
            });
        } catch (const Cancelled&) {
        } catch (const std::bad_alloc&) {
            post(this,
                 [this] { Q_EMIT failed(say("There is not enough memory for so many tiles; take fewer steps.")); });
        } catch (const std::exception& bad) {
            post(this, [this, what = troubleOf(bad)] { Q_EMIT failed(what); });
        }
    });
    return out;
}

namespace {
QImage shownOf(const render::SheetTile& tile, const QSize& size, std::vector<std::uint8_t>& rgb)
{
    if (tile.rgb.empty())
        return {};
    rgb = finish::displayed(tile.look, tile.rgb, size.width(), size.height());
    return QImage(rgb.data(), size.width(), size.height(), 3 * size.width(), QImage::Format_RGB888).copy();
}
} // namespace

void Bracket::draw()
{
    if (!isOn() || area_.width() < 64 || area_.height() < 64)
        return;
    stop(sheet_);
    stop(one_);
    ++turn_;
    layOut();
    for (Tile& t : tiles_)
        t.isLast = false;
    std::vector<std::size_t> all(tiles_.size());
    for (std::size_t i = 0; i < all.size(); ++i)
        all[i] = i;
    sheet_ = work(std::move(all), tileSize_,
                  [this, turn = turn_, size = tileSize_](std::size_t of, render::SheetTile t) {
                      std::vector<std::uint8_t> rgb;
                      const QImage image = shownOf(t, size, rgb);
                      post(this, [this, turn, of, image, rgb = std::move(rgb), samples = t.samples, last = t.isLast,
                                  trouble = QString::fromStdString(t.trouble)]() mutable {
                          if (turn != turn_ || of >= tiles_.size())
                              return;
                          Tile& to = tiles_[of];
                          to.image = image;
                          to.rgb = std::move(rgb);
                          to.samples = samples;
                          to.isLast = last;
                          to.trouble = trouble;
                          Q_EMIT changed();
                      });
                  });
    if (enlarged_ >= 0)
        enlarge(enlarged_);
    Q_EMIT changed();
}

double Bracket::progress() const { return sheet_ ? static_cast<double>(sheet_->job.progress()) : 0.0; }

bool Bracket::isDone() const
{
    return isOn() && std::all_of(tiles_.begin(), tiles_.end(), [](const Tile& t) { return t.isLast; });
}

int Bracket::present() const
{
    const scene::Project& now = document_.project();
    const auto at = [&](const elements::BracketAxis& axis) -> int {
        const auto dot = axis.path.find('.');
        const std::string id = axis.path.substr(0, dot);
        scene::Value value = std::int64_t{document_.frame()};
        if (axis.path != "frame") {
            const scene::Element* e = now.find(id);
            const scene::Group* g = now.findGroup(id);
            if (!e && !g)
                return -1;
            const std::string parameter = axis.path.substr(dot + 1);
            value = parameter == "muted" ? scene::Value(e ? e->muted : g->muted) : e->value(parameter);
        }
        const auto found = std::find(axis.values.begin(), axis.values.end(), value);
        return found == axis.values.end() ? -1 : static_cast<int>(found - axis.values.begin());
    };
    if (!isOn())
        return -1;
    const int column = at(over_), row = isCrossed() ? at(across_) : 0;
    return column < 0 || row < 0 ? -1 : row * static_cast<int>(over_.size()) + column;
}

bool Bracket::take(int tile)
{
    if (tile < 0 || tile >= static_cast<int>(tiles_.size()))
        return false;
    const auto column = static_cast<std::size_t>(tile) % over_.size(),
               row = static_cast<std::size_t>(tile) / over_.size();
    std::vector<std::pair<const elements::BracketAxis*, std::size_t>> wanted{{&over_, column}};
    if (isCrossed())
        wanted.emplace_back(&across_, row);
    std::string name = "Bracket";
    for (const auto& [axis, i] : wanted) {
        if (axis->path == "frame")
            document_.setFrame(static_cast<int>(std::get<std::int64_t>(axis->values[i])));
        else
            name += (name == "Bracket" ? ": " : ", ") + axis->label + " " + axis->shown[i];
    }
    taking_ = true;
    const bool good = name == "Bracket" || document_.edit(QString::fromStdString(name), [&](scene::Project& p) {
        for (const auto& [axis, i] : wanted) {
            if (axis->path == "frame")
                continue;
            const auto dot = axis->path.find('.');
            const std::string id = axis->path.substr(0, dot), parameter = axis->path.substr(dot + 1);
            if (parameter != "muted")
                elements::setValue(p, id, parameter, axis->values[i], *store_);
            else if (scene::Element* e = p.find(id))
                e->muted = std::get<bool>(axis->values[i]);
            else if (scene::Group* g = p.findGroup(id))
                g->muted = std::get<bool>(axis->values[i]);
        }
    });
    taking_ = false;
    // Stops are counted from the present value, and that is another now: the tiles stay those that one chose among.
    Q_EMIT changed();
    return good;
}

void Bracket::enlarge(int tile)
{
    stop(one_);
    enlarged_ = tile >= 0 && tile < static_cast<int>(tiles_.size()) ? tile : -1;
    large_ = QImage();
    if (enlarged_ >= 0) {
        const QSize size = tileSize_.scaled(area_, Qt::KeepAspectRatio);
        one_ = work({static_cast<std::size_t>(enlarged_)}, size,
                    [this, turn = turn_, size](std::size_t of, render::SheetTile t) {
                        std::vector<std::uint8_t> rgb;
                        const QImage image = shownOf(t, size, rgb);
                        post(this, [this, turn, of, image] {
                            if (turn != turn_ || static_cast<int>(of) != enlarged_ || image.isNull())
                                return;
                            large_ = image;
                            Q_EMIT changed();
                        });
                    });
    }
    Q_EMIT changed();
}

bool Bracket::write(const QString& file)
{
    std::vector<finish::Pixels> tiles;
    for (const Tile& t : tiles_) {
        finish::Pixels& p = tiles.emplace_back();
        p.width = tileSize_.width();
        p.height = tileSize_.height();
        if (t.image.size() == tileSize_)
            p.rgb = t.rgb;
    }
    finish::SheetWords words;
    const scene::Project& project = document_.project();
    words.title = isCrossed() ? over_.label + " · " + across_.label : over_.label;
    words.note = project.name + (over_.path == "frame" ? "" : " · frame " + std::to_string(document_.frame()));
    words.columns = over_.shown;
    words.rows = across_.shown;
    try {
        const finish::Pixels sheet = finish::contactSheet(tiles, words);
        image::writePng(file.toStdString(), sheet.width, sheet.height, sheet.rgb,
                        {{"hygros:project", project.name}, {"hygros:bracket", over_.words()}});
    } catch (const std::exception& bad) {
        Q_EMIT failed(troubleOf(bad));
        return false;
    }
    return true;
}
} // namespace hygros::app
