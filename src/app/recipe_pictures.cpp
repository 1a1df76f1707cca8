#include "app/recipe_pictures.h"

#include "app/post.h"
#include "finish/deliver.h"
#include "finish/display.h"
#include "render/still.h"

namespace hygros::app {

RecipePictures::RecipePictures(Session& session, QObject* parent) : QObject(parent), session_(session)
{
    pool_.setMaxThreadCount(1);
    idle_.setInterval(80);
    connect(&idle_, &QTimer::timeout, this, &RecipePictures::next);
    // An edit comes first.
    connect(&session.document(), &Document::projectChanged, this, [this] {
        if (job_)
            job_->cancel();
    });
}

RecipePictures::~RecipePictures()
{
    waiting_.clear();
    if (job_)
        job_->cancel();
    pool_.waitForDone();
}

void RecipePictures::want(const std::vector<scene::Recipe>& recipes)
{
    waiting_.clear();
    if (job_)
        job_->cancel();
    for (std::size_t i = 0; i < recipes.size(); ++i)
        waiting_.push_back({static_cast<int>(i), recipes[i]});
    idle_.start();
}

void RecipePictures::next()
{
    if (waiting_.empty() && !drawing_)
        return idle_.stop();
    // The large picture is drawn first; what is previewed is not in the way either.
    if (drawing_ || waiting_.empty() || !session_.picture().isSettled())
        return;
    const Wanted wanted = waiting_.front();
    waiting_.pop_front();
    scene::Project project = session_.document().whole();
    const Library& library = session_.library();
    try {
        scene::applyRecipe(project, wanted.recipe, library.scaleOf(wanted.recipe), library.placeOf(wanted.recipe));
    } catch (const std::exception&) {
        return; // said when it is taken
    }
    drawing_ = true;
    job_ = std::make_shared<JobControl>();
    runOn(pool_, [this, project, wanted, job = job_, camera = session_.picture().camera(),
                  store = session_.sharedStore()] {
        QImage image;
        bool again = false;
        try {
            const auto shot = elements::freeze(project, *store, *job, elements::Missing::Told, camera);
            render::StillSettings s;
            s.width = width;
            s.height = height;
            s.samples = 4;
            s.followsPaths = false;
            const auto rgb = finish::beautyOf(render::renderStill(shot, s, *job));
            image = QImage(width, height, QImage::Format_RGB32);
            finish::Display(shot->look)
                .apply(rgb.data(), width, height, image.bits(), static_cast<std::size_t>(image.bytesPerLine()), 4);
        } catch (const Cancelled&) {
            again = true;
        } catch (const std::exception&) { // it keeps the picture that came with it
        }
        post(this, [this, image, wanted, again] {
            drawing_ = false;
            if (again)
                waiting_.push_front(wanted);
            else if (!image.isNull())
                Q_EMIT drawn(wanted.number, image);
        });
    });
}
} // namespace hygros::app
