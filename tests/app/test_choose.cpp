/// Deciding: brackets in the window, zoom and regions, why a pixel is dark; the finder, preferences, keys of one's own.
#include "app/bench.h"
#include "app/bracket_view.h"
#include "app/card_column.h"
#include "app/commands.h"
#include "app/finder.h"
#include "app/guide.h"
#include "app/help_dialog.h"
#include "app/main_window.h"
#include "app/picture_view.h"
#include "app/preferences_dialog.h"
#include "app/sounding_view.h"
#include "app/theme.h"
#include "window_support.h"

#include <QAbstractButton>
#include <QAction>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QKeySequenceEdit>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QMenuBar>
#include <QRegularExpression>
#include <QSet>
#include <QSettings>
#include <QTextBrowser>
#include <QTreeWidget>

using namespace hygros;
using namespace hygros::app;

class TestChoose : public QObject {
    Q_OBJECT
    std::unique_ptr<MainWindow> window_;
    QTemporaryDir dir_;

    Session& session() { return window_->session(); }
    PictureView& picture() { return window_->picture(); }
    BracketView& sheet() { return window_->bracket(); }
    Bracket& bracket() { return session().bracket(); }
    bool settle() { return test::settle(session()); }
    template <class T = QWidget> T* named(const char* name, QWidget* in = nullptr)
    {
        for (T* w : (in ? in : window_.get())->findChildren<T*>(name))
            if (w->isVisible())
                return w;
        return nullptr;
    }
    bool press(const char* name, QWidget* in = nullptr)
    {
        auto* b = named<QAbstractButton>(name, in);
        if (!b)
            return false;
        QTest::mouseClick(b, Qt::LeftButton);
        QTest::qWait(20);
        return true;
    }
    std::string fog()
    {
        for (const scene::Element& e : session().project().elements)
            if (e.kind->id == "fogBank")
                return e.id;
        return {};
    }
    double value(const char* parameter) { return std::get<double>(session().project().find(fog())->value(parameter)); }
    bool done()
    {
        for (int i = 0; i < 3000 && !bracket().isDone(); ++i)
            QTest::qWait(20);
        return bracket().isDone();
    }
    static double mean(const QImage& image)
    {
        double sum = 0.0;
        for (int y = 0; y < image.height(); ++y)
            for (int x = 0; x < image.width(); ++x)
                sum += qGray(image.pixel(x, y));
        return sum / (image.width() * image.height());
    }
    static int apart(const QColor& a, const QColor& b)
    {
        return std::abs(a.red() - b.red()) + std::abs(a.green() - b.green()) + std::abs(a.blue() - b.blue());
    }
    /// Mean difference of two pictures, the second brought to the size of the first.
    static double apart(const QImage& a, const QImage& other)
    {
        const QImage b = other.scaled(a.size(), Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
        double sum = 0.0;
        for (int y = 0; y < a.height(); ++y)
            for (int x = 0; x < a.width(); ++x)
                sum += apart(QColor(a.pixel(x, y)), QColor(b.pixel(x, y)));
        return sum / (3.0 * a.width() * a.height());
    }
    QAction* action(const QString& id)
    {
        for (const Command& c : commandsOf(*window_->menuBar()))
            if (c.id == id)
                return c.action;
        return nullptr;
    }
    PreferencesDialog* preferences()
    {
        window_->showPreferences();
        return window_->findChild<PreferencesDialog*>();
    }
    void type(QLineEdit* line, const QString& text)
    {
        line->setFocus();
        line->selectAll();
        QTest::keyClicks(line, text);
        QTest::keyClick(line, Qt::Key_Return);
    }

private Q_SLOTS:
    void initTestCase() { test::prepareApplication(); }
    void init()
    {
        QSettings().clear();
        QSettings().setValue("followPaths", false);
        app::apply(Choices::now());
        Theme::useLight(false);
        applyTheme();
        window_ = std::make_unique<MainWindow>();
        window_->resize(1000, 700);
        session().picture().setWantedSamples(2);
        window_->show();
        session().newProject();
        session().bring(*elements::findKind("set"), QString(SOURCE_DIR) + "/demo/weir.glb");
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 30000);
        session().add(*elements::findKind("fogBank"));
        session().document().setValue(fog(), "top", 8.0);
        session().document().setValue(fog(), "visibility", 60.0);
        QVERIFY(settle());
    }
    void cleanup() { window_.reset(); }

    void aBracketIsSteppedChosenTakenAndUndone()
    {
        bracket().setSamples(2);
        // From a setting's menu.
        Q_EMIT session().bracketWanted(QString::fromStdString(fog()) + ".visibility");
        QVERIFY(sheet().isVisible() && !picture().isVisible());
        QCOMPARE(bracket().tiles().size(), std::size_t(6));
        type(named<QLineEdit>("overFrom"), "10 m");
        type(named<QLineEdit>("overTo"), "1 km");
        named<QSpinBox>("overSteps")->setValue(5);
        QVERIFY(done());
        QCOMPARE(bracket().over().shown, (std::vector<std::string>{"10 m", "31.6 m", "100 m", "316 m", "1 km"}));
        // The thicker, the more alike all pixels are: what is seen says that they are those values.
        const auto spread = [&](int tile) {
            const QImage image = sheet().grab(sheet().tileAt(tile)).toImage();
            double sum = 0.0;
            const double m = mean(image);
            for (int y = 0; y < image.height(); ++y)
                for (int x = 0; x < image.width(); ++x)
                    sum += std::abs(qGray(image.pixel(x, y)) - m);
            return sum / (image.width() * image.height());
        };
        QVERIFY2(spread(0) < 0.7 * spread(2), qPrintable(QString("%1 %2").arg(spread(0)).arg(spread(2))));
        // Chosen with a click, then with keys; taken with Enter.
        QTest::mouseClick(&sheet(), Qt::LeftButton, {}, sheet().tileAt(1).center());
        QCOMPARE(sheet().chosen(), 1);
        QTest::keyClick(&sheet(), Qt::Key_Right);
        QCOMPARE(sheet().chosen(), 2);
        QVERIFY(named<QLabel>("bracketState")->text().contains("chosen: 100 m"));
        QTest::keyClick(&sheet(), Qt::Key_Return);
        QVERIFY(std::abs(value("visibility") - 100.0) < 1e-9);
        QCOMPARE(bracket().present(), 2);
        QCOMPARE(session().document().history().undoName().substr(0, 8), std::string("Bracket:"));
        // Enlarged and back, then the Picture again.
        QTest::mouseDClick(&sheet(), Qt::LeftButton, {}, sheet().tileAt(3).center());
        QCOMPARE(bracket().enlarged(), 3);
        QTRY_VERIFY_WITH_TIMEOUT(!bracket().enlargedImage().isNull(), 20000);
        QVERIFY(bracket().enlargedImage().width() > 2 * bracket().tileSize().width());
        QTest::keyClick(&sheet(), Qt::Key_Escape);
        QCOMPARE(bracket().enlarged(), -1);
        QTest::keyClick(&sheet(), Qt::Key_Escape);
        QVERIFY(picture().isVisible() && !bracket().isOn());
        session().document().undo();
        QVERIFY(std::abs(value("visibility") - 60.0) < 1e-9);
    }
    void aBracketIsCrossedAndWritten()
    {
        bracket().setSamples(1);
        window_->showBracket(fog() + ".visibility");
        auto* across = named<QComboBox>("acrossSetting");
        across->setCurrentIndex(across->findData(QString::fromStdString(fog()) + ".muted"));
        named<QSpinBox>("overSteps")->setValue(3);
        QVERIFY(done());
        QVERIFY(bracket().isCrossed());
        QCOMPARE(bracket().tiles().size(), std::size_t(6));
        QCOMPARE(bracket().rows(), 2);
        // Without it the visibility does nothing.
        QVERIFY(apart(bracket().tiles()[3].image, bracket().tiles()[5].image) < 3.0);
        QVERIFY(apart(bracket().tiles()[0].image, bracket().tiles()[5].image) > 5.0);
        const QString file = dir_.filePath("sheet.png");
        QVERIFY(bracket().write(file));
        const QImage written(file);
        const QSize tile = bracket().tileSize();
        QVERIFY(written.width() > 3 * tile.width() && written.height() > 2 * tile.height());
        QVERIFY(!bracket().write(dir_.filePath("none/such/sheet.png")));
        QVERIFY(window_->message().contains("sheet.png"));
        // Both values at once, as one step.
        QVERIFY(bracket().take(4));
        QVERIFY(session().project().find(fog())->muted);
        session().document().undo();
        QVERIFY(!session().project().find(fog())->muted);
        // What cannot be stepped so is said, and the sheet stays.
        named<QLineEdit>("overFrom")->setFocus();
        type(named<QLineEdit>("overFrom"), "5 apples");
        QVERIFY(window_->message().contains("apples"));
        QCOMPARE(bracket().tiles().size(), std::size_t(6));
        // An edit beside draws them anew.
        session().document().setValue(fog(), "top", 2.0);
        QTRY_VERIFY(!bracket().isDone());
        QVERIFY(done());
        // Another project: the Picture is there again.
        session().newProject();
        QVERIFY(picture().isVisible() && !bracket().isOn());
    }
    void aBracketIsAskedForInTheMenuOfAField()
    {
        window_->chooseFamily(scene::Family::Air);
        window_->unfold(fog());
        QTest::qWait(100);
        window_->showSetting(fog(), "top");
        QTest::qWait(150);
        QWidget* field = QApplication::focusWidget();
        QVERIFY(field);
        QTimer::singleShot(100, [] {
            auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
            for (QAction* a : menu ? menu->actions() : QList<QAction*>())
                if (a->text() == "Bracket it…") {
                    a->trigger();
                    break;
                }
            if (menu)
                menu->close();
        });
        QContextMenuEvent ask(QContextMenuEvent::Keyboard, field->rect().center(),
                              field->mapToGlobal(field->rect().center()));
        QApplication::sendEvent(field, &ask);
        QTRY_VERIFY(sheet().isVisible());
        QCOMPARE(bracket().over().path, fog() + ".top");
    }

    void zoomShowsThatPieceOfThePicture()
    {
        Picture::setDeliveredWidth(picture().width() * 2);
        const QImage fit = session().picture().state().image;
        QVERIFY(press("zoom1"));
        QCOMPARE(session().picture().zoom(), 1);
        QVERIFY(settle());
        const QRectF part = session().picture().shownPart();
        QVERIFY(std::abs(part.width() - 0.5) < 0.01);
        QCOMPARE(session().picture().state().image.width(), picture().width());
        const auto pieceOf = [&](const QRectF& p) {
            return fit.copy(static_cast<int>(p.x() * fit.width()), static_cast<int>(p.y() * fit.height()),
                            static_cast<int>(p.width() * fit.width()), static_cast<int>(p.height() * fit.height()));
        };
        QVERIFY2(apart(pieceOf(part), session().picture().state().image) < 8.0,
                 qPrintable(QString::number(apart(pieceOf(part), session().picture().state().image))));
        // Two for one: drawn at half the size, and pixels are squares of two.
        QTest::keyClick(window_.get(), Qt::Key_2, Qt::ControlModifier);
        QVERIFY(settle());
        QCOMPARE(session().picture().drawnSize(), QSize(picture().width() / 2, picture().height() / 2));
        const QImage seen = picture().grab().toImage();
        int same = 0;
        for (int x = 100; x < 300; x += 2)
            same += seen.pixel(x, 200) == seen.pixel(x + 1, 200);
        QVERIFY2(same > 80, qPrintable(QString::number(same)));
        // Moved by its map: to the left upper corner.
        const QRect map = picture().zoom().map();
        QVERIFY(!map.isNull());
        test::drag(picture(), map.center(), map.topLeft() + QPoint(3, 3));
        QVERIFY(session().picture().shownPart().topLeft() == QPointF(0, 0));
        QVERIFY(settle());
        QVERIFY(apart(pieceOf(session().picture().shownPart()), session().picture().state().image) < 10.0);
        // The wheel with Ctrl goes on about the place under it; a proof is of the whole and says so.
        QWheelEvent wheel(QPointF(10, 10), picture().mapToGlobal(QPointF(10, 10)), {}, QPoint(0, 120), Qt::NoButton,
                          Qt::ControlModifier, Qt::NoScrollPhase, false);
        QApplication::sendEvent(&picture(), &wheel);
        QCOMPARE(session().picture().zoom(), 4);
        QTest::keyClick(window_.get(), Qt::Key_F5);
        QVERIFY(session().proofs().all().empty());
        QVERIFY(window_->message().contains("Ctrl+0"));
        QTest::keyClick(window_.get(), Qt::Key_0, Qt::ControlModifier);
        QVERIFY(settle());
        QVERIFY(apart(fit, session().picture().state().image) < 4.0);
    }
    void lessOfThePictureIsDrawnByChoice()
    {
        const QImage whole = session().picture().state().image;
        auto* size = window_->findChild<QPushButton*>("fineness");
        QVERIFY(size && size->text() == "Full size");
        QTest::mouseClick(size, Qt::LeftButton);
        QCOMPARE(size->text(), QString("Half size"));
        QVERIFY(settle());
        const QImage half = session().picture().state().image;
        QCOMPARE(half.size(), QSize(picture().width() / 2, picture().height() / 2));
        QVERIFY(apart(whole.scaled(half.size(), Qt::IgnoreAspectRatio, Qt::SmoothTransformation), half) < 8.0);
        // It fills the same place, and what is enlarged has its own pixels.
        QVERIFY(apart(picture().grab().toImage().copy(40, 60, 200, 200),
                      half.scaled(picture().size()).copy(40, 60, 200, 200)) < 12.0);
        QVERIFY(press("zoom1"));
        QVERIFY(!size->isEnabled());
        QVERIFY(settle());
        QCOMPARE(session().picture().state().image.width(), picture().width());
        QVERIFY(press("zoom0"));
        QTest::mouseClick(size, Qt::LeftButton);
        QVERIFY(settle());
        QCOMPARE(session().picture().state().image.width(), picture().width() / 4);
        // The next window begins as this one was left; the menu leads back.
        QCOMPARE(MainWindow().session().picture().fineness(), 4);
        action("View/Size that is drawn/Full size")->trigger();
        QVERIFY(settle());
        QCOMPARE(session().picture().state().image.size(), whole.size());
        QCOMPARE(size->text(), QString("Full size"));
    }
    void pinsStayWhereTheyAreAndValuesAreThePixels()
    {
        Picture::setDeliveredWidth(picture().width() * 2);
        action("View/Values of the pixel under the cursor")->trigger();
        const QPoint at(picture().width() / 2, picture().height() * 3 / 4);
        QTest::mouseMove(&picture(), at);
        QTest::qWait(50);
        session().selection().setCursorPlace(
            QPointF((at.x() + 0.5) / picture().width(), (at.y() + 0.5) / picture().height()));
        const QString text = picture().zoom().valueText();
        const QColor shown = session().picture().state().image.pixelColor(at);
        QVERIFY2(text.contains(QString("shown %1 %2 %3").arg(shown.red()).arg(shown.green()).arg(shown.blue())),
                 qPrintable(text));
        QVERIFY(text.startsWith(QString("%1, ").arg(2 * at.x() + 1)) && text.contains("linear ") &&
                text.endsWith(" m"));
        // Linear and shown belong together: no look brings more light down.
        QTest::mouseClick(&picture(), Qt::LeftButton, {}, at);
        QCOMPARE(session().readings().pins().size(), std::size_t(1));
        const QPointF before = picture().zoom().placeOf(session().readings().pins()[0]);
        QVERIFY(QLineF(before, at).length() < 2);
        const QString bench = window_->bench().shownPage();
        QCOMPARE(bench, QString("Sounding"));
        QTRY_VERIFY_WITH_TIMEOUT(session().readings().sounding() && session().readings().sounding()->known(), 20000);
        const float depth = session().readings().sounding()->depth;
        QVERIFY(press("zoom1"));
        QVERIFY(settle());
        QTest::qWait(300);
        QTRY_VERIFY_WITH_TIMEOUT(session().readings().sounding()->known(), 20000);
        QVERIFY2(std::abs(session().readings().sounding()->depth / depth - 1.f) < 0.15f,
                 qPrintable(QString("%1 %2").arg(double(session().readings().sounding()->depth)).arg(double(depth))));
    }
    void aRegionAloneIsDrawn()
    {
        const QImage before = session().picture().state().image;
        const int w = picture().width(), h = picture().height();
        QTest::keyClick(window_.get(), Qt::Key_R, Qt::ControlModifier);
        QCOMPARE(session().selection().task().what, Selection::Task::DrawRegion);
        test::drag(picture(), QPointF(w * 0.25, h * 0.25), QPointF(w * 0.75, h * 0.75));
        QVERIFY(!session().picture().region().isNull());
        QCOMPARE(session().selection().task().what, Selection::Task::Nothing);
        QVERIFY(std::abs(session().picture().drawnSize().width() - w / 2) < 3);
        QVERIFY(settle());
        QVERIFY(apart(before, session().picture().state().image) < 3.0);
        // An edit changes what is inside and nothing around it.
        session().document().setValue(fog(), "visibility", 8.0);
        QVERIFY(settle());
        const QImage after = session().picture().state().image;
        QCOMPARE(after.size(), before.size());
        QCOMPARE(after.pixel(w / 10, h / 10), before.pixel(w / 10, h / 10));
        QCOMPARE(after.pixel(w * 9 / 10, h * 9 / 10), before.pixel(w * 9 / 10, h * 9 / 10));
        const QRect inside(w / 3, h / 2, w / 3, h / 5);
        QVERIFY(apart(before.copy(inside), after.copy(inside)) > 8.0);
        // Its distances are known in it, and what is around keeps its own.
        QVERIFY(session().picture().distanceAt({0.5, 0.6}) > 0.f && session().picture().distanceAt({0.1, 0.9}) > 0.f);
        // All of it again.
        picture().setFocus();
        QTest::keyClick(&picture(), Qt::Key_Escape);
        QVERIFY(session().picture().region().isNull());
        QVERIFY(settle());
        QVERIFY(apart(before, session().picture().state().image) > 3.0);
        QCOMPARE(session().picture().drawnSize(), QSize(w, h));
    }
    void aComparisonFollowsTheZoom()
    {
        Picture::setDeliveredWidth(picture().width() * 2);
        session().compare().withoutAir();
        QTRY_VERIFY_WITH_TIMEOUT(!session().compare().image().isNull(), 30000);
        QTest::qWait(1500);
        const QImage whole = session().compare().image();
        session().picture().setZoom(1, {0.5, 0.5});
        QVERIFY(settle());
        // So small that twigs and their noise are even.
        const auto piece = [&] {
            return whole.copy(whole.width() / 4, whole.height() / 4, whole.width() / 2, whole.height() / 2)
                .scaledToWidth(40, Qt::SmoothTransformation);
        };
        for (int i = 0; i < 300 && apart(piece(), session().compare().image()) > 10.0; ++i)
            QTest::qWait(50);
        QVERIFY2(apart(piece(), session().compare().image()) < 10.0,
                 qPrintable(QString::number(apart(piece(), session().compare().image()))));
        // A picture from disk is cut the same.
        const QString file = dir_.filePath("whole.png");
        QVERIFY(whole.save(file));
        QVERIFY(session().compare().withFile(file));
        QVERIFY(apart(piece(), session().compare().image()) < 1.0);
    }

    void liveIsHeldAgainstTheReference()
    {
        action("Proofs/Against: the reference")->trigger();
        QVERIFY(session().compare().words().contains("reference"));
        QTRY_VERIFY_WITH_TIMEOUT(session().reference().state().paths >= 4.0, 60000);
        QCOMPARE(session().reference().shown(), Reference::Shown::Live);
        QCOMPARE(session().compare().image(), session().reference().state().image);
        QVERIFY(session().compare().words().startsWith("Reference · "));
        session().compare().setBy(Compare::By::Wipe);
        // At the right of the line the reference is seen, at the left the live picture.
        const QPoint right(picture().width() * 3 / 4, picture().height() / 3),
            left(picture().width() / 4, picture().height() / 3);
        const QImage seen = picture().grab().toImage();
        QVERIFY(apart(seen.pixelColor(left), session().picture().state().image.pixelColor(left)) < 9);
        QVERIFY(apart(seen.pixelColor(right), session().compare().image().pixelColor(right)) < 9);
        // Ended, no paths are followed any more; an edit begins them anew while it is on.
        session().document().setValue(fog(), "visibility", 30.0);
        QVERIFY(settle());
        QTRY_VERIFY_WITH_TIMEOUT(!session().compare().image().isNull(), 60000);
        session().compare().end();
        QTest::qWait(300);
        const double paths = session().reference().state().paths;
        QTest::qWait(700);
        QCOMPARE(session().reference().state().paths, paths);
    }
    void whyAPlaceIsDarkIsListed()
    {
        QTest::keyClick(window_.get(), Qt::Key_F12);
        QCOMPARE(window_->bench().shownPage(), QString("Sounding"));
        QVERIFY(window_->message().contains("Click in the Picture"));
        QTest::mouseClick(&picture(), Qt::LeftButton, {}, QPoint(picture().width() / 2, picture().height() * 3 / 4));
        QTRY_VERIFY_WITH_TIMEOUT(session().readings().sounding() && session().readings().sounding()->known(), 20000);
        QVERIFY(window_->sounding().isWhy());
        QTest::qWait(60);
        const QImage why = window_->sounding().grab().toImage();
        // Bars in the hue of air are there.
        const QColor air = familyHue(scene::Family::Air);
        int found = 0;
        for (int y = 0; y < why.height(); ++y)
            for (int x = 0; x < why.width(); ++x)
                found += apart(why.pixelColor(x, y), air) < 6;
        QVERIFY2(found > 30, qPrintable(QString::number(found)));
        QVERIFY(press("soundingAlong"));
        QVERIFY(!window_->sounding().isWhy());
    }

    void theFinderFindsCommandsSettingsAndSetsValues()
    {
        const auto find = [&](const QString& text) {
            window_->activateWindow();
            QTest::qWait(30);
            QTest::keyClick(window_.get(), Qt::Key_K, Qt::ControlModifier);
            Finder* finder = nullptr;
            for (auto* f : window_->findChildren<Finder*>())
                if (f->isVisible())
                    finder = f;
            if (finder)
                QTest::keyClicks(finder->findChild<QLineEdit*>("finderLine"), text);
            return finder;
        };
        const auto first = [](Finder* f) { return f && !f->found().empty() ? f->found().front().text : QString(); };
        const auto take = [](Finder* f) {
            QTest::keyClick(f->findChild<QLineEdit*>("finderLine"), Qt::Key_Return);
            QTest::qWait(150);
        };
        // A value after a setting's name.
        Finder* f = find("visibility 300 m");
        QVERIFY2(first(f).startsWith("Set ") && first(f).endsWith("visibility to 300 m"), qPrintable(first(f)));
        take(f);
        QVERIFY(std::abs(value("visibility") - 300.0) < 1e-9);
        session().document().undo();
        QVERIFY(std::abs(value("visibility") - 60.0) < 1e-9);
        // A command.
        f = find("history");
        QVERIFY2(first(f).contains("History"), qPrintable(first(f) + (f ? "" : " none")));
        take(f);
        QCOMPARE(window_->bench().shownPage(), QString("History"));
        // A setting of a family that is not shown: its card opens there and the field has the focus.
        window_->chooseFamily(scene::Family::Finish);
        f = find("fog thins over");
        QVERIFY2(first(f).contains("thins over"), qPrintable(first(f)));
        take(f);
        QCOMPARE(window_->column().family(), scene::Family::Air);
        window_->activateWindow();
        QTRY_VERIFY(window_->focusWidget());
        bool there = false;
        for (QWidget* w = window_->focusWidget(); w; w = w->parentWidget())
            there |= w->property("parameter").toString() == "falloff";
        QVERIFY(there);
        // Mute by name; keys go through the list.
        f = find("mute fog");
        QVERIFY2(first(f).startsWith("Mute "), qPrintable(first(f)));
        take(f);
        QVERIFY(session().project().find(fog())->muted);
        f = find("pixels");
        auto* list = f->findChild<QListWidget*>("finderList");
        QVERIFY(list->count() >= 3);
        QTest::keyClick(f->findChild<QLineEdit*>("finderLine"), Qt::Key_Down);
        QCOMPARE(list->currentRow(), 1);
        const QString second = f->found()[1].text;
        take(f);
        QVERIFY2(second.contains("Pixels 2:1"), qPrintable(second));
        QCOMPARE(session().picture().zoom(), 2);
        f = find("no such thing at all");
        QVERIFY(f->found().empty());
        QTest::keyClick(f, Qt::Key_Escape);
    }
    void everythingInTheMenusAndEverySettingIsFound()
    {
        window_->findAnything();
        auto* finder = window_->findChild<Finder*>();
        auto* line = finder->findChild<QLineEdit*>("finderLine");
        for (const Command& c : commandsOf(*window_->menuBar())) {
            if (!c.action->isEnabled())
                continue;
            line->setText(c.path);
            QVERIFY2(std::any_of(finder->found().begin(), finder->found().end(),
                                 [&](const Finder::Entry& e) { return e.text == c.path; }),
                     qPrintable(c.path));
        }
        for (const scene::Element& e : session().project().elements)
            for (const scene::Parameter& p : e.kind->parameters) {
                if (!scene::applies(e.kind->parameters, p, *e.settings))
                    continue;
                const QString text = QString::fromStdString(e.name + ": " + p.label);
                line->setText(text);
                QVERIFY2(std::any_of(finder->found().begin(), finder->found().end(),
                                     [&](const Finder::Entry& f) { return f.text == text; }),
                         qPrintable(text));
            }
        finder->close();
    }

    void lightPanelsComeAtOnceAndWhatOneLooksAtStays()
    {
        window_->bench().showPage("Planes");
        window_->chooseFamily(scene::Family::Air);
        window_->unfold(fog());
        QTest::qWait(100);
        const auto panel = [&] {
            return window_->grab().toImage().pixelColor(window_->width() - 10, window_->height() - 120);
        };
        const QColor dark = panel();
        QVERIFY(dark.lightness() < 90);
        const QImage picture = session().picture().state().image;
        auto* dialog = preferences();
        named<QComboBox>("light", dialog)->setCurrentIndex(1);
        QTest::qWait(200);
        QVERIFY(panel().lightness() > 160);
        QCOMPARE(window_->bench().shownPage(), QString("Planes"));
        QCOMPARE(window_->column().family(), scene::Family::Air);
        QVERIFY(window_->column().open().contains(fog()));
        QVERIFY(settle());
        QVERIFY(apart(picture, session().picture().state().image) < 2.0);
        // All still works: an edit and its undo by the menu's new key.
        session().document().setValue(fog(), "top", 3.0);
        QVERIFY(action("Edit/Undo")->isEnabled());
        window_->activateWindow();
        QTest::qWait(50);
        QTest::keyClick(window_.get(), Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(std::abs(value("top") - 8.0) < 1e-9);
        QCOMPARE(window_->findChildren<QMenuBar*>().size(), 1);
        QVERIFY(QSettings().value("lightWindow").toBool());
        QVERIFY(press("preferencesReset", dialog));
        QTest::qWait(200);
        QVERIFY(panel().lightness() < 90);
        dialog->close();
    }
    void unitsAndTheDecimalSignAreShownAsChosen()
    {
        auto* dialog = preferences();
        named<QComboBox>("lengths", dialog)->setCurrentIndex(1);
        named<QComboBox>("decimal", dialog)->setCurrentIndex(2);
        QCOMPARE(formatQuantity(2.5 * 0.3048, Quantity::Length), std::string("2,5 ft"));
        QCOMPARE(formatQuantity(2414.016, Quantity::Visibility), std::string("1,5 mi"));
        QCOMPARE(formatQuantity(0.25, Quantity::Share), std::string("25 %"));
        // What is shown can be typed back.
        for (const double v : {0.01, 0.7, 3.3, 812.0, 4e4})
            for (const Quantity q : {Quantity::Length, Quantity::Visibility, Quantity::Speed}) {
                const auto back = parseQuantity(formatQuantity(v, q), q);
                QVERIFY2(back && std::abs(*back / v - 1.0) < 6e-3, formatQuantity(v, q).c_str());
            }
        // A file stays in metres and points.
        const QString file = dir_.filePath("units.hygros");
        QVERIFY(session().document().save(file));
        QFile in(file);
        QVERIFY(in.open(QIODevice::ReadOnly));
        QVERIFY(in.readAll().contains("\"top\": 8"));
        named<QComboBox>("speeds", dialog)->setCurrentIndex(1);
        QCOMPARE(formatQuantity(10.0, Quantity::Speed), std::string("36 km/h"));
        QVERIFY(press("preferencesReset", dialog));
        QCOMPARE(formatQuantity(2.5, Quantity::Length), std::string("2.5 m"));
        dialog->close();
    }
    void theMachineIsUsedAsChosen()
    {
        auto* dialog = preferences();
        dialog->showPage(2);
        named<QDoubleSpinBox>("kept", dialog)->setValue(0.5);
        QCOMPARE(session().store().limit(), std::size_t(500000000));
        named<QDoubleSpinBox>("baked", dialog)->setValue(3.0);
        QCOMPARE(Choices::now().bakedGb, 3.0);
        named<QComboBox>("threads", dialog)->setCurrentIndex(named<QComboBox>("threads", dialog)->count() - 1);
        const QString folder = dir_.filePath("kept/here");
        type(named<QLineEdit>("cacheFolder", dialog), folder);
        QVERIFY(QFileInfo(folder).isDir());
        QCOMPARE(Choices::now().cache(), folder);
        // One that cannot be is said, and nothing changes.
        QFile(dir_.filePath("file")).open(QIODevice::WriteOnly);
        type(named<QLineEdit>("cacheFolder", dialog), dir_.filePath("file") + "/within");
        QVERIFY(named<QLabel>("preferencesSaid", dialog)->text().contains("cannot be made"));
        QCOMPARE(Choices::now().cache(), folder);
        // They are there in the next window; nonsense by hand in the settings is bounded.
        QSettings().setValue("samples", -5);
        QSettings().setValue("keptGigabytes", "much");
        QVERIFY(Choices::now().samples >= 1 && Choices::now().keptGb >= 0.1);
        session().document().setValue("look", "exposure", 1.5);
        dialog->showPage(1);
        QVERIFY(press("defaultLook", dialog));
        session().newProject();
        QCOMPARE(std::get<double>(session().project().find("look")->value("exposure")), 1.5);
        QVERIFY(press("deliveredLook", dialog));
        session().newProject();
        QVERIFY(std::get<double>(session().project().find("look")->value("exposure")) != 1.5);
        QVERIFY(press("preferencesReset", dialog));
        dialog->close();
    }
    void theFirstPageLeadsToEachStart()
    {
        window_->showFirstPage();
        auto* page = named("firstPage");
        QVERIFY(page && !picture().isVisible());
        QVERIFY(page->findChildren<QAbstractButton*>(QRegularExpression("^start:")).size() == 6);
        for (auto* b : page->findChildren<QAbstractButton*>(QRegularExpression("^start:")))
            QVERIFY2(!b->icon().isNull() && b->icon().availableSizes().front().width() >= 136, qPrintable(b->text()));
        // Left, it is seen as such in windows to come.
        QTest::keyClick(page, Qt::Key_Escape);
        QVERIFY(picture().isVisible() && Choices::now().firstShown);
        // A demo is opened.
        session().document().save(dir_.filePath("kept.hygros")); // nothing is asked
        window_->showFirstPage();
        QVERIFY(press("start:first-light"));
        QTRY_COMPARE_WITH_TIMEOUT(session().project().name, std::string("First light"), 60000);
        QVERIFY(picture().isVisible());
        // A plate is asked for, and nothing happens without one.
        window_->showFirstPage();
        bool asked = false;
        QTimer::singleShot(300, [&] {
            if (auto* dialog = qobject_cast<QDialog*>(QApplication::activeModalWidget())) {
                asked = dialog->windowTitle().contains("plate", Qt::CaseInsensitive);
                dialog->reject();
            }
        });
        QVERIFY(press("startPlate"));
        QVERIFY(asked && picture().isVisible());
        QCOMPARE(window_->column().family(), scene::Family::Set);
        QCOMPARE(session().project().name, std::string("First light"));
    }
    void theGuideGoesOnWithWhatIsDone()
    {
        session().document().save(dir_.filePath("kept.hygros"));
        window_->resize(1200, 760);
        window_->startGuide();
        QVERIFY(window_->guide());
        QVERIFY(!session().document().hasUnsavedChanges() && session().document().file().isEmpty());
        QVERIFY(settle());
        const QImage clear = session().picture().state().image;
        Guide& guide = *window_->guide();
        QVERIFY(guide.isVisible() && guide.step() == 0 && guide.words().contains("Fog bank"));
        window_->column().add("fogBank");
        QCOMPARE(guide.step(), 1);
        const double before = value("visibility");
        session().document().setValue(fog(), "visibility", 0.95 * before);
        QCOMPARE(guide.step(), 1); // hardly
        session().document().setValue(fog(), "visibility", 0.4 * before);
        QCOMPARE(guide.step(), 2);
        session().document().setValue(fog(), "top", value("top") + 1.0);
        QCOMPARE(guide.step(), 3);
        QVERIFY(settle());
        QVERIFY(apart(clear, session().picture().state().image) > 2.0);
        QTest::mouseClick(&picture(), Qt::LeftButton, {}, QPoint(picture().width() / 2, picture().height() / 2));
        QCOMPARE(guide.step(), 4);
        window_->activateWindow();
        QTest::qWait(30);
        QTest::keyClick(window_.get(), Qt::Key_F5);
        QCOMPARE(guide.step(), 5);
        QVERIFY(press("guideNext"));
        QTRY_VERIFY(!window_->guide());
        // It can be left at any step.
        session().document().save(dir_.filePath("kept2.hygros"));
        window_->startGuide();
        QTest::qWait(100);
        QVERIFY(press("guideNext"));
        QCOMPARE(window_->guide()->step(), 1);
        QVERIFY(press("guideEnd"));
        QTRY_VERIFY(!window_->guide());
    }
    void helpTellsOfWhatHasTheFocus()
    {
        window_->showSetting(fog(), "top");
        QTRY_VERIFY(window_->focusWidget() && window_->focusWidget() != &picture());
        QTest::qWait(100);
        window_->activateWindow();
        QTest::qWait(30);
        QTest::keyClick(window_.get(), Qt::Key_F1);
        auto* help = window_->findChild<HelpDialog*>();
        QVERIFY(help && help->isVisible());
        const scene::Parameter& top = *scene::findParameter(session().project().find(fog())->kind->parameters, "top");
        QVERIFY2(help->words().contains(QString::fromStdString(top.help)) && help->words().contains("fogBank.top") &&
                     help->words().contains("ft"),
                 qPrintable(help->words()));
        // Every setting of every kind has words.
        for (const elements::Kind& k : elements::kinds())
            for (const scene::Parameter& p : k.parameters) {
                help->showSetting(k.id, p.id);
                QVERIFY2(!p.help.empty() && help->words().contains(QString::fromStdString(k.id + "." + p.id)),
                         qPrintable(QString::fromStdString(k.id + "." + p.id)));
            }
        // What a setting does is seen: low, medium and high on its ruler, three pictures that differ.
        help->showSetting("haze", "visibility");
        auto* text = help->findChild<QTextBrowser*>("helpText");
        QVERIFY2(help->words().contains("25 km"), qPrintable(help->words()));
        const QImage strip(":/hygros/help/haze.visibility.jpg");
        QCOMPARE(strip.size(), QSize(484, 90));
        const auto mean = [&](int from) {
            double sum = 0.0;
            for (int y = 0; y < 90; ++y)
                for (int x = 0; x < 160; ++x)
                    sum += qGray(strip.pixel(from + x, y));
            return sum / (90 * 160);
        };
        QVERIFY(std::abs(mean(0) - mean(324)) > 10.0);
        QTest::qWait(50);
        const QImage seen = text->viewport()->grab().toImage();
        QSet<QRgb> colours; // words alone have few
        for (int y = 0; y < seen.height(); ++y)
            for (int x = 0; x < seen.width(); ++x)
                colours.insert(seen.pixel(x, y));
        QVERIFY2(colours.size() > 1000, qPrintable(QString::number(colours.size())));
        auto* find = help->findChild<QLineEdit*>("helpFind");
        auto* list = help->findChild<QTreeWidget*>("helpList");
        find->setText("anisotropy");
        int shown = 0;
        for (int i = 0; i < list->topLevelItemCount(); ++i)
            shown += !list->topLevelItem(i)->isHidden();
        QVERIFY(shown > 1 && shown < list->topLevelItemCount());
        help->close();
    }
    void filesAreCollectedAndThatIsUndone()
    {
        const QString file = dir_.filePath("collected/shot.hygros");
        QVERIFY(QDir().mkpath(QFileInfo(file).path()));
        QVERIFY(session().document().save(file));
        const auto named = [&] {
            for (const scene::Element& e : session().project().elements)
                if (e.kind->id == "set")
                    return std::get<std::string>(e.value("file"));
            return std::string();
        };
        const std::string before = named();
        action("Project/Collect its files")->trigger();
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 30000);
        QTRY_VERIFY(window_->message().contains("copied beside the project"));
        QVERIFY2(QString::fromStdString(named()).startsWith("shot-files/"), named().c_str());
        QVERIFY(QFile::exists(dir_.filePath("collected/" + QString::fromStdString(named()))));
        QVERIFY(settle());
        QVERIFY(session().picture().shot()->scene->triangles() > 0);
        session().document().undo();
        QCOMPARE(named(), before);
    }
    void keysAreChangedAndClashesSaid()
    {
        auto* dialog = preferences();
        dialog->showPage(3);
        auto* keys = named<QTreeWidget>("keys", dialog);
        const auto choose = [&](const QString& text) {
            for (int i = 0; i < keys->topLevelItemCount(); ++i)
                if (keys->topLevelItem(i)->text(0).endsWith(text)) {
                    keys->setCurrentItem(keys->topLevelItem(i));
                    return true;
                }
            return false;
        };
        QVERIFY(choose("History"));
        auto* edit = named<QKeySequenceEdit>("newKeys", dialog);
        edit->setKeySequence(QKeySequence("F5"));
        Q_EMIT edit->editingFinished();
        QVERIFY(named<QLabel>("preferencesSaid", dialog)->text().contains("Keep a proof"));
        QCOMPARE(action("Edit/History")->shortcut(), QKeySequence("F5"));
        QVERIFY(action("Proofs/Keep a proof")->shortcut().isEmpty());
        dialog->close();
        QTest::keyClick(window_.get(), Qt::Key_F5);
        QCOMPARE(window_->bench().shownPage(), QString("History"));
        QVERIFY(session().proofs().all().empty());
        // In the next window as well; reset, all is as delivered.
        window_.reset();
        window_ = std::make_unique<MainWindow>();
        window_->show();
        QCOMPARE(action("Edit/History")->shortcut(), QKeySequence("F5"));
        dialog = preferences();
        QVERIFY(press("preferencesReset", dialog));
        QCOMPARE(action("Proofs/Keep a proof")->shortcut(), QKeySequence("F5"));
        QCOMPARE(action("Edit/History")->shortcut(), QKeySequence("Ctrl+Alt+Z"));
        dialog->close();
        // As delivered no two commands have the same keys.
        const auto all = commandsOf(*window_->menuBar());
        QVERIFY(all.size() > 60);
        for (const Command& c : all)
            QVERIFY2(!clashOf(all, c.id, c.action->shortcut()), qPrintable(c.path));
    }
};

QTEST_MAIN(TestChoose)
#include "test_choose.moc"
