/// The Bench and the column beside it, driven by hand: several banks in the Transect, the Planes by keys, pins, adding
/// and removing elements, recent files.
#include "app/bench.h"
#include "app/card.h"
#include "app/card_column.h"
#include "app/lead_ruler.h"
#include "app/main_window.h"
#include "app/picture_view.h"
#include "app/planes_view.h"
#include "app/sounding_view.h"
#include "app/status_line.h"
#include "app/theme.h"
#include "app/tone_curve.h"
#include "app/transect_view.h"
#include "window_support.h"

#include <QClipboard>
#include <QLineEdit>
#include <QMenu>
#include <QMenuBar>
#include <QPushButton>
#include <QScrollArea>

using namespace hygros;
using namespace hygros::app;
using test::drag;

class TestBench : public QObject {
    Q_OBJECT
    std::unique_ptr<MainWindow> window_;
    QTemporaryDir dir_;

    Session& session() { return window_->session(); }
    double value(const char* element, const char* parameter)
    {
        return std::get<double>(session().project().find(element)->value(parameter));
    }
    bool settle() { return test::settle(session()); }
    QAction* action(const char* menu, const QString& text) { return test::menuAction(*window_, menu, text); }
    /// The colours of a widget in a rectangle, as a quick proof that something is drawn there.
    std::size_t colours(QWidget& w, const QRect& r)
    {
        const QImage image = w.grab(r).toImage();
        std::set<QRgb> seen;
        for (int y = 0; y < image.height(); ++y)
            for (int x = 0; x < image.width(); ++x)
                seen.insert(image.pixel(x, y));
        return seen.size();
    }

private Q_SLOTS:
    void initTestCase() { test::prepareApplication(); }
    void init()
    {
        window_ = std::make_unique<MainWindow>();
        window_->resize(1097, 700);
        session().picture().setWantedSamples(1);
        window_->show();
        session().open(test::demo());
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 30000);
    }
    void cleanup() { window_.reset(); }

    void everyBankHasHandlesOfItsOwn()
    {
        window_->column().add("fogBank");
        const std::string second = session().project().elements.back().id;
        QVERIFY(second != "mist");
        TransectView& t = window_->transect();
        QTRY_VERIFY(!t.handlePosition(second, "top").isNull());
        const QPointF a = t.handlePosition("mist", "top"), b = t.handlePosition(second, "top");
        QVERIFY(QLineF(a, b).length() > 12);
        const double before = value("mist", "top");
        drag(t, b.toPoint(), b.toPoint() - QPoint(0, 20));
        QCOMPARE(value("mist", "top"), before);
        QVERIFY(value(second.c_str(), "top") > 3.2);
        session().document().undo();
        QCOMPARE(value(second.c_str(), "top"), 3.0);
    }

    void aMutedBankHasNoHandles()
    {
        QVERIFY(!window_->transect().handlePosition("mist", "top").isNull());
        session().document().edit("Mute", [](scene::Project& p) { p.find("mist")->muted = true; });
        QVERIFY(window_->transect().handlePosition("mist", "top").isNull());
        QVERIFY(!window_->transect().handlePosition("haze", "visibility").isNull());
        QVERIFY(window_->transect().handlePosition("nobody", "top").isNull());
    }

    void theTransectDrawsAirGroundAndCurve()
    {
        QVERIFY(settle());
        TransectView& t = window_->transect();
        QTRY_VERIFY(colours(t, QRect(60, 20, t.width() - 140, t.height() - 60)) > 60);
        // What the cursor points at is told beside it.
        const QPoint middle(t.width() / 2, t.height() / 3);
        const QImage before = t.grab().toImage();
        QTest::mouseMove(&t, middle);
        QTRY_VERIFY(t.grab().toImage() != before);
    }

    void hoveringABankInTheTransectNamesItInThePicture()
    {
        QVERIFY(settle());
        TransectView& t = window_->transect();
        QTest::mouseMove(&t, t.handlePosition("mist", "top").toPoint());
        QTRY_COMPARE(session().selection().hovered(), std::string("mist"));
    }

    void pagesOfTheBenchAreChosenByName()
    {
        for (const char* name : {"Planes", "Sounding", "Transect"}) {
            QTest::mouseClick(window_->findChild<QPushButton*>(QString("page:") + name), Qt::LeftButton);
            QCOMPARE(window_->bench().shownPage(), QString(name));
        }
        QVERIFY(window_->transect().isVisible() && !window_->planes().isVisible());
        window_->bench().showPage("no such page");
        QCOMPARE(window_->bench().shownPage(), QString("Transect"));
        // Reached by keys too.
        auto* planes = window_->findChild<QPushButton*>("page:Planes");
        planes->setFocus(Qt::TabFocusReason);
        QTest::keyClick(planes, Qt::Key_Space);
        QCOMPARE(window_->bench().shownPage(), QString("Planes"));
    }

    void bordersMoveByKeysAndStayInOrder()
    {
        QVERIFY(settle());
        window_->bench().showPage("Planes");
        QTRY_VERIFY_WITH_TIMEOUT(session().readings().planeBorders().size() == 2, 20000);
        PlanesView& view = window_->planes();
        view.setFocus();
        const auto before = session().readings().planeBorders();
        QTest::keyClick(&view, Qt::Key_Right);
        QVERIFY(session().readings().planeBorders()[0] > before[0] * 1.05f);
        QTest::keyClick(&view, Qt::Key_Left, Qt::ShiftModifier);
        QVERIFY(session().readings().planeBorders()[0] > before[0]);
        QTest::keyClick(&view, Qt::Key_Down);
        for (int i = 0; i < 80; ++i)
            QTest::keyClick(&view, Qt::Key_Left); // against the first border, not past it
        QVERIFY(session().readings().planeBorders()[1] >= session().readings().planeBorders()[0] * 1.09f);
        for (int i = 0; i < 120; ++i)
            QTest::keyClick(&view, Qt::Key_Right);
        QVERIFY(session().readings().planeBorders()[1] <= 4001.f);
    }

    void planesFollowTheAir()
    {
        QVERIFY(settle());
        window_->bench().showPage("Planes");
        QTRY_VERIFY_WITH_TIMEOUT(session().readings().planes().planes.size() == 3, 20000);
        PlanesView& view = window_->planes();
        QVERIFY(colours(view, view.rect()) > 20);
        const float apart = session().readings().planes().separation[1],
                    back = session().readings().planes().planes[2].meanStops;
        session().document().setValue("haze", "visibility", 300.0);
        QVERIFY(settle());
        QTRY_VERIFY_WITH_TIMEOUT(std::abs(session().readings().planes().planes[2].meanStops - back) > 0.02f, 20000);
        QVERIFY(session().readings().planes().separation[1] != apart);
        // The picture without air does not know of it.
        QVERIFY(session().readings().planesWithoutAir().planes[0].pixels ==
                session().readings().planes().planes[0].pixels);
    }

    void beforeAPinTheSoundingSaysWhatToDo()
    {
        window_->bench().showPage("Sounding");
        SoundingView& view = window_->sounding();
        QVERIFY(!window_->findChild<QPushButton*>("copySounding")->isVisible());
        QVERIFY(colours(view, view.rect()) > 3);
        const QString before = QGuiApplication::clipboard()->text();
        view.copyTable(); // nothing to copy, nothing copied
        QCOMPARE(QGuiApplication::clipboard()->text(), before);
    }

    void pinsAreChosenByAClickAndADragIsNoPin()
    {
        QVERIFY(settle());
        PictureView& picture = window_->picture();
        const QPoint a(picture.width() / 4, picture.height() / 2), b(picture.width() * 3 / 4, picture.height() / 2);
        QTest::mouseClick(&picture, Qt::LeftButton, {}, a);
        QTest::mouseClick(&picture, Qt::LeftButton, {}, b);
        QCOMPARE(session().readings().pins().size(), std::size_t{2});
        QCOMPARE(session().readings().chosenPin(), 1);
        QTest::mouseClick(&picture, Qt::LeftButton, {}, a + QPoint(2, -1));
        QCOMPARE(session().readings().pins().size(), std::size_t{2});
        QCOMPARE(session().readings().chosenPin(), 0);
        QTRY_VERIFY_WITH_TIMEOUT(session().readings().sounding() && session().readings().sounding()->known(), 20000);
        drag(picture, b + QPoint(0, 60), b + QPoint(40, 60));
        QCOMPARE(session().readings().pins().size(), std::size_t{2});
        QVERIFY(session().picture().freeCamera().has_value());
        session().readings().removePin(7);
        QCOMPARE(session().readings().pins().size(), std::size_t{2});
        session().newProject();
        QVERIFY(session().readings().pins().empty() && session().readings().chosenPin() == -1);
    }

    void aRightClickIsNoPin()
    {
        QVERIFY(settle());
        QTest::mouseClick(&window_->picture(), Qt::RightButton, {}, QPoint(100, 100));
        QVERIFY(session().readings().pins().empty());
    }

    void elementsAreAddedFromTheMenuAndRemovedByUndo()
    {
        const std::size_t before = session().project().elements.size();
        QAction* add = action("Add", "Spot lamp");
        QVERIFY(add);
        add->trigger();
        QCOMPARE(session().project().elements.size(), before + 1);
        QCOMPARE(window_->column().family(), scene::Family::Lights);
        QVERIFY(window_->column().reveal(session().project().elements.back().id)->isOpen());
        action("Edit", "Undo")->trigger();
        QCOMPARE(session().project().elements.size(), before);
        action("Edit", "Redo")->trigger();
        QCOMPARE(session().project().elements.size(), before + 1);
        // There is one sun already.
        action("Add", "Sun and sky")->trigger();
        QCOMPARE(session().project().elements.size(), before + 1);
        QVERIFY(window_->message().contains("already"));
    }

    void familiesShowTheirOwnCards()
    {
        for (const auto& [family, element] :
             {std::pair(scene::Family::Lights, "sun"), std::pair(scene::Family::Set, "marl"),
              std::pair(scene::Family::Finish, "look"), std::pair(scene::Family::Air, "haze")}) {
            window_->chooseFamily(family);
            QCOMPARE(window_->column().family(), family);
            Card* card = window_->column().reveal(element);
            QVERIFY(card);
            QTRY_VERIFY(card->isVisible());
            card->setOpen(true);
            QVERIFY(card->isOpen());
            QVERIFY(colours(*card, card->rect()) > 8);
            card->setOpen(false);
        }
        QVERIFY(!window_->column().reveal("nobody"));
    }

    void choicesOfACardShowOnlyWhatApplies()
    {
        Card* card = window_->column().reveal("mist");
        card->setOpen(true);
        QVERIFY(card->findChild<LeadRuler*>("base"));
        auto* box = card->findChild<QPushButton*>("form=box");
        QVERIFY(box);
        auto* scroll = window_->column().findChild<QScrollArea*>();
        QVERIFY(scroll);
        const auto seen = [&] {
            scroll->ensureWidgetVisible(box);
            return box->visibleRegion().contains(box->rect().center());
        };
        QTRY_VERIFY(seen()); // the card is laid out, and the choice scrolled into view
        QTest::mouseClick(box, Qt::LeftButton);
        QCOMPARE(std::get<std::string>(session().project().find("mist")->value("form")), std::string("box"));
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        QVERIFY(!card->findChild<LeadRuler*>("base"));
        QVERIFY(card->findChild<QLineEdit*>("size"));
        session().document().undo();
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        QVERIFY(card->findChild<LeadRuler*>("base"));
    }

    void coloursAndPointsAreTypedAsThreeNumbers()
    {
        Card* card = window_->column().reveal("mist");
        card->setOpen(true);
        const auto type = [&](const QString& text) {
            auto* field = window_->column().reveal("mist")->findChild<QLineEdit*>("albedo");
            QVERIFY(field);
            field->setFocus();
            field->setText(text);
            QTest::keyClick(field, Qt::Key_Return);
            QVERIFY(window_->column().reveal("mist")->isOpen()); // Return ends typing, no more
            QCoreApplication::processEvents();
        };
        const auto albedo = [&] { return std::get<Vec3>(session().project().find("mist")->value("albedo")); };
        type("0.8 0.85 0.9");
        QCOMPARE(albedo(), Vec3(0.8f, 0.85f, 0.9f));
        type("1 2");
        QCOMPARE(albedo(), Vec3(0.8f, 0.85f, 0.9f));
        QVERIFY(window_->message().contains("albedo"));
        type("0.5 0.5 7");
        QCOMPARE(albedo(), Vec3(0.8f, 0.85f, 0.9f));
    }

    void recentFilesAreListedAndOpenAgain()
    {
        const QString file = dir_.filePath("kept.hygros");
        QVERIFY(session().document().save(file));
        QCOMPARE(session().document().file(), file);
        QVERIFY(session().document().recentFiles().contains(file));
        QVERIFY(!session().document().hasUnsavedChanges());
        session().document().setValue("haze", "visibility", 800.0);
        QVERIFY(session().document().hasUnsavedChanges());
        QVERIFY(window_->windowTitle().contains("changed"));
        session().open(file);
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 30000);
        QVERIFY(!session().document().hasUnsavedChanges());
        QCOMPARE(value("haze", "visibility"), 2500.0);
        QFile::remove(file);
        QVERIFY(!session().document().recentFiles().contains(file)); // gone files are not offered
    }

    void savingWhereOneMayNotSaysSoAndKeepsTheWork()
    {
        session().document().setValue("haze", "visibility", 900.0);
        QVERIFY(!session().document().save(dir_.filePath("no/such/folder/a.hygros")));
        QVERIFY(window_->message().contains("folder"));
        QVERIFY(session().document().hasUnsavedChanges());
        QCOMPARE(value("haze", "visibility"), 900.0);
    }

    void aToneCurvePointIsAddedAndDeleted()
    {
        window_->chooseFamily(scene::Family::Finish);
        Card* card = window_->column().reveal("look");
        card->setOpen(true);
        auto* curve = card->findChild<ToneCurve*>();
        QVERIFY(curve);
        const auto before = curve->curve().size();
        // Down one column between points until the curve is met.
        const auto size = [&] {
            return std::get<scene::CurvePoints>(session().project().find("look")->value("curve")).size();
        };
        for (int y = 6; y < curve->height() && size() == before; y += 6)
            QTest::mouseClick(curve, Qt::LeftButton, {}, QPoint(curve->width() / 2 + 14, y));
        QCOMPARE(size(), before + 1);
        QTest::keyClick(curve, Qt::Key_Delete);
        QTRY_COMPARE(std::get<scene::CurvePoints>(session().project().find("look")->value("curve")).size(), before);
        session().document().undo();
        QCOMPARE(std::get<scene::CurvePoints>(session().project().find("look")->value("curve")).size(), before + 1);
    }

    void aSetThatCannotBeReadReplacesNothing()
    {
        const QString bad = dir_.filePath("bad.glb");
        QFile f(bad);
        QVERIFY(f.open(QIODevice::WriteOnly) && f.write("nothing like it") > 0);
        f.close();
        const std::size_t before = session().project().elements.size();
        session().bring(*elements::findKind("set"), bad);
        QTRY_VERIFY_WITH_TIMEOUT(window_->message().contains("bad.glb"), 20000);
        QCOMPARE(session().project().elements.size(), before);
        QVERIFY(!session().document().history().canUndo());
    }

    void aJobInWorkIsToldAndASecondOneRunsBesideIt()
    {
        std::atomic<bool> go{false};
        session().jobs().run(
            "Counting",
            [&](JobControl& job) {
                while (!go) {
                    job.report(0.5f, "half of it");
                    job.check();
                    QThread::msleep(2);
                }
            },
            [] {});
        QVERIFY(session().jobs().isBusy());
        bool done = false;
        session().jobs().run(
            "Another", [](JobControl&) {}, [&] { done = true; });
        QTRY_VERIFY(done);
        QCOMPARE(session().jobs().states().size(), std::size_t{1});
        QCOMPARE(session().jobs().states()[0].name, QString("Counting"));
        session().jobs().cancelAll();
        QTRY_VERIFY(!session().jobs().isBusy());
        go = true;
    }

    void aRecipeIsPreviewedTakenAndUndone()
    {
        window_->chooseFamily(scene::Family::Air);
        auto* button = window_->findChild<QPushButton*>("recipes");
        QVERIFY(button && button->menu());
        QAction* smog = nullptr;
        for (QAction* a : button->menu()->actions())
            if (a->text() == "City smog")
                smog = a;
        QVERIFY(smog && button->menu()->actions().size() >= 10);
        QVERIFY(settle());
        const QImage before = session().picture().state().image;
        const std::size_t elements = session().project().elements.size();
        const auto unlike = [&] {
            const QImage now = session().picture().state().image;
            if (now.size() != before.size())
                return 0.0;
            double sum = 0.0;
            for (int y = 0; y < now.height(); y += 4)
                for (int x = 0; x < now.width(); x += 4)
                    sum += std::abs(qGray(now.pixel(x, y)) - qGray(before.pixel(x, y)));
            return sum / (now.width() * now.height() / 16.0);
        };
        // Resting on it shows it; the project is as it was.
        smog->hover();
        QTRY_VERIFY_WITH_TIMEOUT(unlike() > 3.0, 20000);
        QCOMPARE(session().project().elements.size(), elements);
        QVERIFY(!session().document().history().canUndo());
        session().library().preview(nullptr);
        QTRY_VERIFY_WITH_TIMEOUT(unlike() < 0.5, 20000);
        smog->trigger();
        QCOMPARE(session().project().elements.size(), elements + 1);
        QCOMPARE(QString::fromStdString(session().document().history().undoName()), QString("Recipe City smog"));
        QTRY_VERIFY_WITH_TIMEOUT(unlike() > 3.0, 20000);
        session().document().undo();
        QCOMPARE(session().project().elements.size(), elements);
        QTRY_VERIFY_WITH_TIMEOUT(unlike() < 0.5, 20000);
        // Each family has its own, and where there are none nothing is offered.
        window_->chooseFamily(scene::Family::Lights);
        QVERIFY(!window_->findChild<QPushButton*>("recipes")->isVisible());
        for (const auto& [family, one, none] : {std::tuple(scene::Family::Fire, "Candle", "Blizzard"),
                                                std::tuple(scene::Family::Weather, "Blizzard", "Open sea"),
                                                std::tuple(scene::Family::Water, "Open sea", "City smog")}) {
            window_->chooseFamily(family);
            QVERIFY(button->isVisible());
            QStringList names;
            for (const QAction* a : button->menu()->actions())
                names << a->text();
            QVERIFY2(names.contains(one) && !names.contains(none), qPrintable(names.join(", ")));
        }
    }
};
QTEST_MAIN(TestBench)
#include "test_bench.moc"
