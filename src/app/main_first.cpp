/// Where one begins, and the guided first fog.
#include "app/bench.h"
#include "app/card_column.h"
#include "app/first_page.h"
#include "app/guide.h"
#include "app/main_window.h"
#include "app/words.h"

#include <QStackedWidget>
#include <QVBoxLayout>

namespace hygros::app {

void MainWindow::showFirstPage()
{
    showPicture();
    auto* page = new FirstPage(stage_);
    stage_->addWidget(page);
    stage_->setCurrentWidget(page);
    page->setFocus();
    const auto leave = [this] {
        Choices c = Choices::now();
        c.firstShown = true;
        c.keep();
        showPicture();
    };
    connect(page, &FirstPage::closed, this, leave);
    connect(page, &FirstPage::emptyWanted, this, [this, leave] {
        leave();
        newProject();
    });
    connect(page, &FirstPage::demoChosen, this, [this, leave](const QString& file) {
        leave();
        if (mayLeave())
            session_.open(file);
    });
    connect(page, &FirstPage::setWanted, this, [this, leave] {
        leave();
        chooseFamily(scene::Family::Set);
        importSet();
    });
    connect(page, &FirstPage::plateWanted, this, [this, leave] {
        leave();
        chooseFamily(scene::Family::Set);
        column_->add("plate");
    });
    connect(page, &FirstPage::guideWanted, this, [this, leave] {
        leave();
        startGuide();
    });
}

void MainWindow::startGuide()
{
    if (!mayLeave())
        return;
    delete guide_;
    guide_ = nullptr;
    try {
        // As a project of its own, so that the demo stays what it is.
        const QString file = FirstPage::demo("first-light");
        scene::Project p = scene::loadProject(file.toStdString(), elements::findKind);
        std::erase_if(p.elements, [](const scene::Element& e) {
            return e.kind->family == scene::Family::Air || e.kind->family == scene::Family::Weather;
        });
        p.name = said("First fog");
        session_.document().replace(scene::namedFrom(p, {}), {});
    } catch (const std::exception& bad) {
        return tell(troubleOf(bad));
    }
    chooseFamily(scene::Family::Air);
    bench_->showPage("Transect");
    guide_ = new Guide(session_, this);
    left_->insertWidget(1, guide_);
    connect(guide_, &Guide::ended, this, [this] {
        guide_->deleteLater();
        guide_ = nullptr;
    });
}
} // namespace hygros::app
