/// Elements in the hand, in the window: doubled, copied to another project, edited and moved together, grouped, kept as
/// recipes; what is recovered, and two windows on one project.
#include "app/card.h"
#include "app/card_column.h"
#include "app/lead_ruler.h"
#include "app/picture_handles.h"
#include "app/picture_view.h"
#include "app/preferences_dialog.h"
#include "app/recipe_dialog.h"
#include "scene/arrange.h"
#include "window_support.h"

#include <QClipboard>
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QMessageBox>
#include <QPlainTextEdit>
#include <QSettings>
#include <QTimer>
#include <fstream>

using namespace hygros;
using namespace hygros::app;

class TestHand : public QObject {
    Q_OBJECT
    std::unique_ptr<MainWindow> window_;
    QTemporaryDir dir_;
    Session& session() { return window_->session(); }
    const scene::Project& project() { return session().project(); }
    Card* card(const std::string& id)
    {
        QTest::qWait(30);
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        return window_->column().reveal(id);
    }
    void click(const std::string& id, Qt::KeyboardModifiers modifiers)
    {
        QTest::mouseClick(card(id), Qt::LeftButton, modifiers, QPoint(120, 18));
    }
    std::size_t count(scene::Family family)
    {
        return static_cast<std::size_t>(std::count_if(project().elements.begin(), project().elements.end(),
                                                      [&](const auto& e) { return e.kind->family == family; }));
    }
    std::string add(const char* kind, const char* name)
    {
        std::string id;
        session().document().edit("add", [&](scene::Project& p) { id = p.add(*elements::findKind(kind), name).id; });
        return id;
    }
    double value(const std::string& id, const char* parameter)
    {
        return std::get<double>(project().find(id)->value(parameter));
    }
    bool trigger(const char* menu, const QString& text)
    {
        QAction* a = test::menuAction(*window_, menu, text);
        if (!a || !a->isEnabled())
            return false;
        a->trigger();
        return true;
    }
    QStringList names(scene::Family family)
    {
        QStringList all;
        for (const auto& e : project().elements)
            if (e.kind->family == family)
                all << QString::fromStdString(e.name);
        return all;
    }

private Q_SLOTS:
    void initTestCase()
    {
        test::prepareApplication();
        QDir(Library::ownFolder()).removeRecursively();
        QDir(Recovery::folder()).removeRecursively();
    }
    void init()
    {
        window_ = std::make_unique<MainWindow>();
        window_->resize(1097, 700);
        session().picture().setWantedSamples(1);
        window_->show();
        session().newProject();
    }
    void cleanup() { window_.reset(); }

    void aDoubleIsMadeWithOneKeyAndUndone()
    {
        add("fogBank", "Mist");
        click("mist", {});
        QTest::keyClick(window_.get(), Qt::Key_D, Qt::ControlModifier);
        QCOMPARE(names(scene::Family::Air), (QStringList{"Mist", "Mist 2"}));
        QVERIFY(card("mist-2"));
        QCOMPARE(session().selection().selected(), std::string("mist-2"));
        session().document().undo();
        QCOMPARE(names(scene::Family::Air), QStringList{"Mist"});
    }

    void whatIsCopiedIsPastedIntoAnotherProject()
    {
        add("fogBank", "Mist");
        session().document().setValue("mist", "top", scene::Value(7.0));
        add("haze", "Haze");
        click("mist", Qt::ControlModifier);
        click("haze", Qt::ControlModifier);
        QVERIFY(trigger("Edit", "Copy"));
        // It is the project's own JSON.
        const auto text = QGuiApplication::clipboard()->text().toStdString();
        QCOMPARE(scene::fromJson(text, "clipboard", elements::findKind).elements.size(), std::size_t{2});
        MainWindow other;
        other.show();
        other.session().newProject();
        QAction* paste = test::menuAction(other, "Edit", "Paste");
        QVERIFY(paste);
        paste->trigger();
        const scene::Element* mist = other.session().project().find("mist");
        QVERIFY(mist && other.session().project().find("haze"));
        QCOMPARE(std::get<double>(mist->value("top")), 7.0);
        QCOMPARE(other.session().selection().chosen().size(), std::size_t{2});
        other.session().document().undo();
        QVERIFY(!other.session().project().find("mist"));
        // What is no part of a project is said, and nothing changes.
        QGuiApplication::clipboard()->setText("just words");
        paste->trigger();
        QVERIFY2(other.message().contains("damaged"), qPrintable(other.message()));
        other.session().document().endDrag();
    }

    void fiveLampsAreEditedTogether()
    {
        window_->chooseFamily(scene::Family::Lights);
        std::vector<std::string> lamps;
        for (const char* kind : {"bulb", "spot", "bulb", "tube", "panel"})
            lamps.push_back(add(kind, kind));
        click(lamps.front(), Qt::ControlModifier);
        click(lamps.back(), Qt::ShiftModifier);
        QCOMPARE(session().selection().chosen(), lamps);
        Card* first = card(lamps.front());
        LeadRuler* power = nullptr;
        for (auto* r : first->findChildren<LeadRuler*>())
            if (r->parameter().id == "power")
                power = r;
        QVERIFY(power);
        QTest::mouseClick(power, Qt::LeftButton, {}, QPoint(power->width() - 12, 10));
        auto* field = power->findChild<QLineEdit*>();
        QVERIFY(field);
        QTest::keyClick(field, Qt::Key_A, Qt::ControlModifier);
        QTest::keyClicks(field, "1234 lm");
        QTest::keyClick(field, Qt::Key_Return);
        for (const std::string& id : lamps)
            QCOMPARE(value(id, "power"), 1234.0);
        session().document().undo();
        for (const std::string& id : lamps)
            QVERIFY(value(id, "power") != 1234.0);
        // Muted and taken away together.
        QTest::keyClick(card(lamps[2]), Qt::Key_M);
        for (const std::string& id : lamps)
            QVERIFY(project().find(id)->muted);
        session().document().undo();
        QVERIFY(trigger("Edit", "Remove"));
        QCOMPARE(count(scene::Family::Lights), std::size_t{1}); // the sun
        session().document().undo();
        QCOMPARE(count(scene::Family::Lights), std::size_t{6});
    }

    void theyMoveTogetherByTheHandlesOfOne()
    {
        window_->chooseFamily(scene::Family::Lights);
        const std::string a = add("bulb", "one"), b = add("bulb", "two");
        session().document().edit("place", [&](scene::Project& p) {
            p.find(a)->set("position", Vec3(-1.f, 1.f, -4.f));
            p.find(b)->set("position", Vec3(1.f, 1.f, -4.f));
        });
        QVERIFY(test::settle(session()));
        session().selection().setChosen({a, b});
        PictureHandles handles(session());
        const QSize size = window_->picture().size();
        const QPointF at = handles.at(PictureHandles::Part::Move, size);
        QVERIFY(!at.isNull());
        test::drag(window_->picture(), at, at + QPointF(40, 0));
        const Vec3 p = std::get<Vec3>(project().find(a)->value("position")),
                   q = std::get<Vec3>(project().find(b)->value("position"));
        QVERIFY2(p.x > -0.95f, qPrintable(QString::number(double(p.x))));
        QVERIFY(std::abs((q.x - p.x) - 2.f) < 2e-3f && std::abs(q.y - p.y) < 2e-3f);
        session().document().undo();
        QCOMPARE(std::get<Vec3>(project().find(a)->value("position")), Vec3(-1.f, 1.f, -4.f));
        QCOMPARE(std::get<Vec3>(project().find(b)->value("position")), Vec3(1.f, 1.f, -4.f));
    }

    void aGroupIsMutedFoldedAndWritten()
    {
        for (const char* name : {"Low", "High", "Haze"})
            add(name == std::string("Haze") ? "haze" : "fogBank", name);
        click("low", Qt::ControlModifier);
        click("high", Qt::ControlModifier);
        QTimer::singleShot(150, this, [] {
            if (auto* field = QApplication::activeModalWidget()
                                  ? QApplication::activeModalWidget()->findChild<QLineEdit*>()
                                  : nullptr) {
                field->setText("Banks");
                QTest::keyClick(field, Qt::Key_Return);
            }
        });
        QVERIFY(trigger("Edit", "Group"));
        QCOMPARE(project().groups.size(), std::size_t{1});
        const std::string g = project().groups[0].id;
        QTest::qWait(50);
        auto* head = window_->findChild<GroupHead*>(QString::fromStdString("groupHead:" + g));
        QVERIFY(head);
        QTest::keyClick(head, Qt::Key_M);
        QVERIFY(project().silent(*project().find("low")) && project().silent(*project().find("high")) &&
                !project().silent(*project().find("haze")));
        // Folded its cards are gone from the list; that is no step of its own.
        QTest::mouseClick(head, Qt::LeftButton, {}, QPoint(40, 15));
        QVERIFY(project().findGroup(g)->folded);
        QCOMPARE(session().selection().chosen().size(), std::size_t{2});
        QTest::qWait(50);
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        QVERIFY(!window_->findChild<Card*>("card:low"));
        const QString file = dir_.filePath("groups.hygros");
        QVERIFY(session().document().save(file));
        const scene::Project read = scene::loadProject(file.toStdString(), elements::findKind);
        QVERIFY(read.findGroup(g) && read.findGroup(g)->muted && read.findGroup(g)->folded);
        QCOMPARE(read.findGroup(g)->name, std::string("Banks"));
    }

    void aCardIsDraggedToAnotherPlace()
    {
        for (const char* name : {"A", "B", "C"})
            add("veil", name);
        QTest::qWait(100);
        Card* c = card("c");
        const QPoint from(120, 18);
        const QPoint to = c->mapFromGlobal(card("a")->mapToGlobal(QPoint(120, 4)));
        QTest::mousePress(c, Qt::LeftButton, {}, from);
        for (int i = 1; i <= 6; ++i)
            QTest::mouseMove(c, from + (to - from) * i / 6);
        QTest::mouseRelease(c, Qt::LeftButton, {}, to);
        QTRY_COMPARE(names(scene::Family::Air), (QStringList{"C", "A", "B"}));
        session().document().undo();
        QCOMPARE(names(scene::Family::Air), (QStringList{"A", "B", "C"}));
        // And by keys.
        QTest::keyClick(card("a"), Qt::Key_Down, Qt::AltModifier);
        QCOMPARE(names(scene::Family::Air), (QStringList{"B", "A", "C"}));
    }

    void aNameIsTypedInPlace()
    {
        add("haze", "Haze");
        Card* c = card("haze");
        QTest::keyClick(c, Qt::Key_F2);
        auto* field = c->findChild<QLineEdit*>("rename");
        QVERIFY(field && field->isVisible());
        QTest::keyClick(field, Qt::Key_A, Qt::ControlModifier);
        QTest::keyClicks(field, "Far air");
        QTest::keyClick(field, Qt::Key_Return);
        QCOMPARE(project().find("haze")->name, std::string("Far air"));
        session().document().undo();
        QCOMPARE(project().find("haze")->name, std::string("Haze"));
    }

    void aRecipeIsKeptAndAppliedInANewProject()
    {
        add("fogBank", "Mist");
        session().document().setValue("mist", "top", scene::Value(3.5));
        QVERIFY(test::settle(session()));
        session().selection().setChosen({"mist"});
        QVERIFY(trigger("Edit", "Save as recipe"));
        auto* dialog = window_->findChild<RecipeDialog*>();
        QVERIFY(dialog);
        dialog->findChild<QLineEdit*>("recipeName")->setText("Canal mist");
        dialog->findChild<QPlainTextEdit*>("recipeWords")->setPlainText("Lies on the water.");
        QTest::mouseClick(dialog->findChild<QPushButton*>("saveRecipe"), Qt::LeftButton);
        QTest::qWait(50);
        session().newProject();
        // It stands in the menu, with its words and its picture.
        auto* recipes = window_->findChild<QPushButton*>("recipes");
        QAction* own = nullptr;
        for (QAction* a : recipes->menu()->actions())
            if (a->text() == "Canal mist")
                own = a;
        QVERIFY(own);
        QVERIFY(own->toolTip().contains("Lies on the water.") && own->toolTip().contains("data:image/png"));
        own->trigger();
        QVERIFY(project().find("mist"));
        QCOMPARE(value("mist", "top"), 3.5); // metres stay metres
        session().document().undo();
        QVERIFY(!project().find("mist"));
    }

    void newElementsBeginAsOneSays()
    {
        add("haze", "Haze");
        session().document().setValue("haze", "visibility", scene::Value(777.0));
        session().arranger().saveAsDefault("haze");
        window_->column().add("haze");
        QCOMPARE(value("haze-2", "visibility"), 777.0);
        session().arranger().forgetDefault(*elements::findKind("haze"));
        window_->column().add("haze");
        QVERIFY(value("haze-3", "visibility") != 777.0);
        session().arranger().reset({"haze"}, {});
        QCOMPARE(value("haze", "visibility"), value("haze-3", "visibility"));
    }

    void settingsAreFoundByTypingAndByWhatChanged()
    {
        add("haze", "Haze");
        auto* find = window_->findChild<QLineEdit*>("findSetting");
        QTest::keyClicks(find, "anisotropy");
        const auto shown = [&] {
            QStringList all;
            for (auto* r : card("haze")->findChildren<LeadRuler*>())
                if (r->isVisible())
                    all << QString::fromStdString(r->parameter().id);
            return all;
        };
        QCOMPARE(shown(), QStringList{"anisotropy"});
        find->clear();
        session().document().setValue("haze", "anisotropy", scene::Value(0.25));
        auto* changed = window_->findChild<QPushButton*>("changedOnly");
        card("haze")->setOpen(true);
        QTest::mouseClick(changed, Qt::LeftButton);
        QCOMPARE(shown(), QStringList{"anisotropy"});
        QTest::mouseClick(changed, Qt::LeftButton);
        QVERIFY(shown().size() > 3);
    }

    void unsavedWorkIsOfferedAtTheNextStart()
    {
        const QString file = dir_.filePath("kept.hygros");
        QVERIFY(session().document().save(file));
        const QByteArray before = [&] {
            QFile f(file);
            return f.open(QIODevice::ReadOnly) ? f.readAll() : QByteArray();
        }();
        add("haze", "Haze");
        session().document().setValue("haze", "visibility", scene::Value(4321.0));
        const QString journal = session().recovery().journal();
        QTRY_VERIFY_WITH_TIMEOUT(QFile::exists(journal), 2000);
        QTest::qWait(1200);
        QVERIFY(Recovery::found().empty()); // this window lives
        // As after a crash: the journal without its window.
        const QString left = Recovery::folder() + "/left.hygros-recovery";
        QVERIFY(QFile::copy(journal, left));
        // What was being written aside then is cleared away, but not that of a window that lives.
        const auto aside = [](const QString& stem) {
            QFile f(Recovery::folder() + "/." + stem + ".4711-3.hygros-recovery");
            return f.open(QIODevice::WriteOnly) && f.write("{\"format\"") > 0 ? f.fileName() : QString();
        };
        const QString dead = aside("left"), living = aside(QFileInfo(journal).completeBaseName());
        const auto found = Recovery::found();
        QCOMPARE(found.size(), std::size_t{1});
        QVERIFY(!dead.isEmpty() && !QFile::exists(dead));
        QVERIFY(!living.isEmpty() && QFile::remove(living));
        QCOMPARE(found[0].file, file);
        MainWindow next;
        next.show();
        QTimer::singleShot(200, this, [] {
            if (auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget()))
                for (QAbstractButton* b : box->buttons())
                    if (b->text().contains("Go on"))
                        b->click();
        });
        QVERIFY(next.offerRecovery());
        const scene::Element* haze = next.session().project().find("haze");
        QVERIFY(haze);
        QCOMPARE(std::get<double>(haze->value("visibility")), 4321.0);
        QVERIFY(next.session().document().hasUnsavedChanges());
        QCOMPARE(next.session().document().file(), file);
        QVERIFY(!QFile::exists(left));
        QFile f(file);
        QVERIFY(f.open(QIODevice::ReadOnly));
        QCOMPARE(f.readAll(), before); // nothing is written over the artist's own file
    }

    void twoWindowsDoNotWriteOverEachOther()
    {
        const QString file = dir_.filePath("shared.hygros");
        QVERIFY(session().document().save(file));
        MainWindow other;
        other.show();
        other.session().open(file);
        QTRY_VERIFY_WITH_TIMEOUT(!other.session().jobs().isBusy(), 20000);
        // Both are one process here, as two windows on one machine: the lock tells them apart all the same.
        QVERIFY2(other.message().contains("open in another window"), qPrintable(other.message()));
        QVERIFY(other.session().document().clash() == Document::Clash::Open);
        QVERIFY(session().document().clash() == Document::Clash::None);
        // The other takes it over; now the first is asked.
        other.session().document().edit("x", [](scene::Project& p) { p.name = "Other's"; });
        QVERIFY(other.session().document().save(file));
        QVERIFY(session().document().clash() != Document::Clash::None);
        const auto answer = [&](const char* word) {
            QTimer::singleShot(200, this, [word] {
                if (auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget()))
                    for (QAbstractButton* b : box->buttons())
                        if (b->text().contains(word))
                            b->click();
            });
        };
        session().document().edit("x", [](scene::Project& p) { p.name = "Mine"; });
        answer("Do not save");
        QVERIFY(!window_->saveProject());
        QCOMPARE(scene::loadProject(file.toStdString(), elements::findKind).name, std::string("Other's"));
        answer("Write over");
        QVERIFY(window_->saveProject());
        QCOMPARE(scene::loadProject(file.toStdString(), elements::findKind).name, std::string("Mine"));
    }

    void aFileChangedBySomebodyElseIsNoticed()
    {
        const QString file = dir_.filePath("edited.hygros");
        QVERIFY(session().document().save(file));
        QVERIFY(session().document().clash() == Document::Clash::None);
        QTest::qWait(20);
        std::ofstream(file.toStdString(), std::ios::app) << "\n";
        QVERIFY(session().document().clash() == Document::Clash::Changed);
    }

    void severalJobsRunAtOnceAndEachIsCancelled()
    {
        std::atomic<bool> second = false;
        const int slow = session().jobs().run(
            "slow",
            [](JobControl& job) {
                for (;;) {
                    job.check();
                    std::this_thread::sleep_for(std::chrono::milliseconds(5));
                }
            },
            [] {});
        session().jobs().run(
            "quick", [](JobControl&) {}, [&] { second = true; });
        QTRY_VERIFY(second);
        QCOMPARE(session().jobs().states().size(), std::size_t{1});
        session().jobs().cancel(slow);
        QTRY_VERIFY(!session().jobs().isBusy());
    }

    void anEditDoesNotWaitForWhatItDoesNotNeed()
    {
        // A shape of many voxels takes seconds; muting it must not wait for it.
        session().document().edit("slow", [](scene::Project& p) {
            scene::Element& e = p.add(*elements::findKind("volume"), "Slow");
            e.set("source", std::string("ball"));
            e.set("size", Vec3(80.f));
            e.set("voxel", 0.3);
            e.set("octaves", std::int64_t{8});
        });
        QTest::qWait(250);
        QElapsedTimer clock;
        clock.start();
        std::shared_ptr<const shot::Shot> before = session().picture().shot();
        session().document().edit("mute", [](scene::Project& p) { p.find("slow")->muted = true; });
        QTRY_VERIFY_WITH_TIMEOUT(session().picture().shot() != before, 1500);
        QVERIFY(session().picture().shot()->volumes.empty());
        QTRY_VERIFY_WITH_TIMEOUT(session().picture().freezer().isIdle(), 20000);
        QVERIFY(session().picture().shot()->volumes.empty()); // the older one does not come after
    }

    void theLivePictureIsHeldToPathsOrNot()
    {
        QAction* held = test::menuAction(*window_, "View", "Hold the live picture to paths");
        QVERIFY(held && held->isCheckable() && !held->isChecked()); // tests begin without
        session().newProject();
        add("haze", "Haze");
        session().picture().setWantedSamples(2);
        QVERIFY(test::settle(session()));
        const QImage marched = session().picture().state().image;
        held->setChecked(true);
        QTRY_VERIFY_WITH_TIMEOUT(!session().picture().isSettled(), 5000);
        QVERIFY(test::settle(session()));
        const QImage told = session().picture().state().image;
        QVERIFY(told.size() == marched.size() && told != marched);
        QVERIFY(QSettings().value("followPaths").toBool());
        held->setChecked(false);
        QVERIFY(!session().picture().followsPaths());
    }

    void whatIsKeptHasItsBoundInThisWindowAndInLaterOnes()
    {
        QVERIFY(trigger("Edit", "Preferences"));
        auto* preferences = window_->findChild<PreferencesDialog*>();
        QVERIFY(preferences && preferences->isVisible());
        preferences->findChild<QDoubleSpinBox*>("kept")->setValue(0.5);
        QCOMPARE(session().store().limit(), std::size_t{500000000});
        MainWindow later;
        QCOMPARE(later.session().store().limit(), std::size_t{500000000});
        QSettings().remove("keptGigabytes");
    }
};

QTEST_MAIN(TestHand)
#include "test_hand.moc"
