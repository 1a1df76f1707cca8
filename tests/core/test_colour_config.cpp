/// Colour configurations: what they show, what they are given, and what is said of those that are none.
#include "base/error.h"
#include "elements/collect.h"
#include "elements/kinds.h"
#include "finish/display.h"
#include "image/colour_config.h"
#include "image/colour_table.h"
#include "support.h"

#include <QTemporaryDir>
#include <fstream>

using namespace hygros;
using finish::displayed;
using image::ColourConfig;
using image::ColourView;

namespace {
/// ACES2065-1 is what all refers to; "sRGB" comes from it by the library's own numbers, not by ours.
const std::string spaces = R"(colorspaces:
  - !<ColorSpace> {name: aces}
  - !<ColorSpace>
    name: sRGB
    from_scene_reference: !<GroupTransform>
      children:
        - !<BuiltinTransform> {style: UTILITY - ACES-AP0_to_CIE-XYZ-D65_BFD}
        - !<MatrixTransform> {matrix: [3.2404541621, -1.5371385128, -0.4985314096, 0, -0.9692660305, 1.8760108454, 0.0415560175, 0, 0.0556434310, -0.2040259135, 1.0572251882, 0, 0, 0, 0, 1]}
        - !<ExponentWithLinearTransform> {gamma: [2.4, 2.4, 2.4, 1], offset: [0.055, 0.055, 0.055, 0], direction: inverse}
  - !<ColorSpace>
    name: turned
    from_scene_reference: !<GroupTransform>
      children:
        - !<ColorSpaceTransform> {src: aces, dst: sRGB}
        - !<FileTransform> {src: turned.cube, interpolation: linear}
  - !<ColorSpace>
    name: halved
    to_scene_reference: !<MatrixTransform> {matrix: [2, 0, 0, 0, 0, 2, 0, 0, 0, 0, 2, 0, 0, 0, 0, 1]}
  - !<ColorSpace> {name: raw, isdata: true}
)";
const std::string views = R"(displays:
  Panel:
    - !<View> {name: Turned, colorspace: turned}
    - !<View> {name: Plain, colorspace: sRGB}
    - !<View> {name: Raw, colorspace: raw}
  Cinema:
    - !<View> {name: Half, colorspace: halved}
active_displays: [Panel, Cinema]
active_views: [Plain, Turned, Raw, Half]
)";
std::string configText(const std::string& roles = "{default: raw, aces_interchange: aces, scene_linear: halved}")
{
    return "ocio_profile_version: 2\nsearch_path: luts\nstrictparsing: true\nroles: " + roles +
           "\nfile_rules:\n  - !<Rule> {name: Default, colorspace: default}\n" + views + spaces;
}
void write(const std::filesystem::path& file, const std::string& text)
{
    std::filesystem::create_directories(file.parent_path());
    std::ofstream(file, std::ios::binary) << text;
}
/// Red and blue change places.
const std::string turnedTable = "LUT_3D_SIZE 2\n0 0 0\n0 0 1\n0 1 0\n0 1 1\n1 0 0\n1 0 1\n1 1 0\n1 1 1\n";
/// Light of many colours, bright and dark, that Rec. 709 holds.
std::vector<float> lights()
{
    std::vector<float> rgb;
    for (int i = 0; i < 19; ++i)
        for (int c = 0; c < 3; ++c)
            rgb.push_back(0.9f * std::exp2(-0.4f * static_cast<float>((i * (c + 2) * 7) % 19)));
    return rgb;
}
} // namespace

class TestColourConfig : public QObject {
    Q_OBJECT
    QTemporaryDir dir_;
    std::filesystem::path at(const std::string& name) const
    {
        return std::filesystem::path(dir_.path().toStdString()) / name;
    }
    std::filesystem::path show() const { return at("show.ocio"); }

private Q_SLOTS:
    void init()
    {
        write(show(), configText());
        write(at("luts/turned.cube"), turnedTable);
    }

    void lightIsConvertedToWhatItNames()
    {
        // A plain view shows what our own encoding does: numbers from Rec. 709 to ACES and back are right.
        const auto config = ColourConfig::load(show());
        shot::Look own;
        own.exposure = 0.3f;
        own.white = 5200.f;
        const std::vector<float> rgb = lights();
        const auto without = displayed(own, rgb, 19, 1);
        shot::Look with = own;
        with.view = config->view({});
        QCOMPARE(with.view->light(), ColourView::Light::Converted);
        QCOMPARE(with.view->names().display, std::string("Panel"));
        QCOMPARE(with.view->names().view, std::string("Plain"));
        const auto shown = displayed(with, rgb, 19, 1);
        for (std::size_t i = 0; i < shown.size(); ++i)
            QVERIFY2(std::abs(int(shown[i]) - int(without[i])) <= 1,
                     qPrintable(QString("%1: %2 %3").arg(i).arg(shown[i]).arg(without[i])));
        QVERIFY(std::abs(finish::Display(with).encode(0.2f) - finish::Display(own).encode(0.2f)) < 2e-3f);
        // The tone curve and paling are the configuration's business now.
        with.curve = {{-1.f, 0.f}, {1.f, 1.f}};
        with.pales = 1.f;
        QVERIFY(displayed(with, rgb, 19, 1) == shown);
        // What is no number, or less than nothing, is black and harms nobody beside it.
        std::vector<float> odd = rgb;
        odd[3] = std::numeric_limits<float>::quiet_NaN();
        odd[4] = -5.f;
        odd[5] = 0.f;
        const auto beside = displayed(with, odd, 19, 1);
        for (std::size_t i = 0; i < shown.size(); ++i)
            QVERIFY(i / 3 == 1 ? beside[i] <= 1 : beside[i] == shown[i]);
        odd[3] = std::numeric_limits<float>::infinity();
        QCOMPARE(int(displayed(with, odd, 19, 1)[3]), 255);
    }

    void otherFilesAreFoundFromItsFolderAndReadAnew()
    {
        const auto config = ColourConfig::load(show());
        QCOMPARE(config->beside().size(), std::size_t(1));
        QVERIFY(std::filesystem::equivalent(config->beside()[0].path, at("luts/turned.cube")));
        const std::vector<float> rgb = lights();
        shot::Look plain, turned;
        plain.view = config->view({"Panel", "Plain", ""});
        turned.view = config->view({"", "Turned", ""});
        const auto a = displayed(plain, rgb, 19, 1), b = displayed(turned, rgb, 19, 1);
        for (std::size_t i = 0; i < a.size(); i += 3) {
            QVERIFY(std::abs(int(a[i]) - int(b[i + 2])) <= 1 && std::abs(int(a[i + 1]) - int(b[i + 1])) <= 1 &&
                    std::abs(int(a[i + 2]) - int(b[i])) <= 1);
        }
        // In a project: the picture changes with the table, though the configuration itself does not.
        scene::Project p = elements::newProject();
        p.folder = dir_.path().toStdString();
        p.find("look")->set("config", std::string("show.ocio"));
        p.find("look")->set("view", std::string("Turned"));
        Store store;
        JobControl job;
        const auto first = elements::freeze(p, store, job), again = elements::freeze(p, store, job);
        QVERIFY(first->look.view && again->look.view == first->look.view);
        write(at("luts/turned.cube"), "LUT_3D_SIZE 2\n" + QByteArray("0 0 0\n").repeated(8).toStdString());
        const auto dark = elements::freeze(p, store, job);
        QVERIFY(dark->look.view && dark->look.view != first->look.view);
        QVERIFY(displayed(dark->look, {0.2f, 0.2f, 0.2f}, 1, 1) != displayed(first->look, {0.2f, 0.2f, 0.2f}, 1, 1));
        // What is asked for in place of the tone curve is what greys come to.
        shot::Look even = first->look;
        even.exposure = 0.f;
        even.white = 6500.f;
        for (const Vec2& point : even.curve) {
            const float encoded = finish::Display(even).encode(0.18f * std::exp2(point.x));
            if (encoded < 0.999f && encoded > 0.01f)
                QVERIFY(std::abs(std::pow(point.y, 1.f / 2.2f) - encoded) < 2e-3f);
        }
        QVERIFY(first->look.curve.size() > 20);
        // Gone, it is said; the picture is shown by the look alone.
        std::filesystem::remove(at("luts/turned.cube"));
        const auto gone = elements::freeze(p, store, job);
        QVERIFY(!gone->look.view);
        QVERIFY(std::any_of(gone->notes.begin(), gone->notes.end(), [](const shot::Note& n) {
            return n.element == "look" && n.text.find("It cannot show its view") != std::string::npos &&
                   n.text.find("turned.cube") != std::string::npos && n.isTrouble;
        }));
    }

    void itsNamesAreOfferedAndOthersRefused()
    {
        const auto config = ColourConfig::load(show());
        QCOMPARE(config->displays(), (std::vector<std::string>{"Panel", "Cinema"}));
        QCOMPARE(config->views(""), (std::vector<std::string>{"Plain", "Turned", "Raw"}));
        QCOMPARE(config->views("Cinema"), (std::vector<std::string>{"Half"}));
        QVERIFY(config->views("none").empty());
        QCOMPARE(config->lights(), (std::vector<std::string>{"aces", "sRGB", "turned", "halved"}));
        const auto refused = [&](const image::ColourViewNames& names, const char* says) {
            try {
                (void)config->view(names);
                return false;
            } catch (const Error& e) {
                return QString(e.what()).contains(says);
            }
        };
        QVERIFY(refused({"Wall", "", ""}, "no display \"Wall\" but Panel, Cinema"));
        QVERIFY(refused({"Cinema", "Plain", ""}, "Its display Cinema has no view \"Plain\" but Half"));
        QVERIFY(refused({"", "", "moon"}, "no colour space \"moon\""));
        // A space that the artist names takes light as it is.
        const auto named = config->view({"Panel", "Raw", "aces"});
        QCOMPARE(named->light(), ColourView::Light::Named);
        shot::Look look;
        look.view = config->view({"Cinema", "", "aces"});
        QVERIFY(std::abs(finish::Display(look).encode(0.5f) - 0.25f) < 1e-5f);
        // Where it does not say how its light relates to other light, its scene_linear is what comes in, and that is
        // said.
        const auto silent = ColourConfig::parse(configText("{default: raw, scene_linear: halved}"), show())
                                ->view({"Cinema", "Half", ""});
        QCOMPARE(silent->light(), ColourView::Light::Assumed);
        QCOMPARE(silent->names().light, std::string("halved"));
        look.view = silent;
        QVERIFY(std::abs(finish::Display(look).encode(0.5f) - 0.5f) < 1e-5f);
        try {
            (void)ColourConfig::parse(configText("{default: raw}"), show())->view({});
            QFAIL("its light was known");
        } catch (const Error& e) {
            QVERIFY2(QString(e.what()).contains("which colour space is linear light"), e.what());
        }
    }

    void whatIsNoneIsRefused_data()
    {
        QTest::addColumn<QString>("text");
        const QString good = QString::fromStdString(configText());
        QTest::newRow("empty") << "";
        QTest::newRow("words") << "fog over the lock\n";
        QTest::newRow("cut") << good.left(good.size() / 2);
        QTest::newRow("no spaces") << good.left(good.indexOf("colorspaces:"));
        QTest::newRow("of the future") << QString(good).replace("version: 2", "version: 9");
        QTest::newRow("not a matrix") << QString(good).replace("[2, 0, 0, 0,", "[2, x, 0, 0,");
        QTest::newRow("unknown style") << QString(good).replace("ACES-AP0_to_CIE", "MOON_to_CIE");
        QTest::newRow("in a circle") << QString(good).replace("{src: aces, dst: sRGB}", "{src: aces, dst: turned}");
        const QString inside = "  - !<ColorSpace>\n    name: inside\n    from_scene_reference: " +
                               QString("!<GroupTransform> {children: [").repeated(80) +
                               "!<ColorSpaceTransform> {src: aces, dst: inside}" + QString("]}").repeated(80) + "\n";
        QTest::newRow("a circle deep inside") << good + inside;
        QTest::newRow("deep") << QString("a: ") + QString("[").repeated(200000);
        QTest::newRow("shows nothing") << good.left(good.indexOf("displays:")) + good.mid(good.indexOf("colorspaces:"));
        QTest::newRow("zeros") << QString(4000, QChar(0));
    }
    void whatIsNoneIsRefused()
    {
        QFETCH(QString, text);
        try {
            const auto config = ColourConfig::parse(text.toStdString(), show());
            for (const std::string& display : config->displays())
                for (const std::string& view : config->views(display))
                    (void)config->view({display, view, ""});
            QFAIL("it was read");
        } catch (const Error& e) {
            QVERIFY2(QString(e.what()).contains("show.ocio"), e.what());
            QVERIFY2(QString(e.what()).contains("Choose another .ocio file"), e.what());
        }
    }
    void tooLargeOnesAreNotRead()
    {
        write(at("large.ocio"), std::string(ColourConfig::mostBytes + 1, '#'));
        try {
            (void)ColourConfig::load(at("large.ocio"));
            QFAIL("it was read");
        } catch (const Error& e) {
            QVERIFY2(QString(e.what()).contains("larger than 16 MB"), e.what());
        }
    }

    void aTableComesAfterIt()
    {
        const auto config = ColourConfig::load(show());
        const std::vector<float> rgb = lights();
        shot::Look plain, both;
        plain.view = both.view = config->view({});
        write(at("turned.cube"), turnedTable);
        both.table = image::ColourTable::load(at("turned.cube"));
        const auto a = displayed(plain, rgb, 19, 1), b = displayed(both, rgb, 19, 1);
        for (std::size_t i = 0; i < a.size(); i += 3)
            QVERIFY(std::abs(int(a[i]) - int(b[i + 2])) <= 1 && std::abs(int(a[i + 2]) - int(b[i])) <= 1);
        // Half of a table of light beside the view: what is between them.
        both.tableTakes = shot::Look::TableTakes::Stops;
        both.tableShare = 0.f;
        QVERIFY(displayed(both, rgb, 19, 1) == a);
    }

    void whatItReadsIsCollectedAlongWithIt()
    {
        scene::Project p = elements::newProject();
        p.folder = dir_.path().toStdString();
        p.find("look")->set("config", std::string("show.ocio"));
        const auto target = at("elsewhere/shot.hygros");
        std::filesystem::create_directories(target.parent_path());
        JobControl job;
        (void)elements::collect(p, target, job);
        const auto file = scene::resolved(p, std::get<std::string>(p.find("look")->value("config")));
        QVERIFY(QString::fromStdString(file.string()).contains("elsewhere"));
        const auto config = ColourConfig::load(file);
        QCOMPARE(config->beside().size(), std::size_t(1));
        QVERIFY(QString::fromStdString(config->beside()[0].path.string()).contains("elsewhere"));
        (void)config->view({"Panel", "Turned", ""});
    }

    void anotherConfigurationForgetsTheOthersNames()
    {
        scene::Project p = elements::newProject();
        Store store;
        elements::setValue(p, "look", "config", std::string("a.ocio"), store);
        elements::setValue(p, "look", "display", std::string("Panel"), store);
        elements::setValue(p, "look", "view", std::string("Plain"), store);
        elements::setValue(p, "look", "light", std::string("aces"), store);
        elements::setValue(p, "look", "display", std::string("Cinema"), store);
        QCOMPARE(std::get<std::string>(p.find("look")->value("view")), std::string());
        QCOMPARE(std::get<std::string>(p.find("look")->value("light")), std::string("aces"));
        elements::setValue(p, "look", "config", std::string("b.ocio"), store);
        for (const char* name : {"display", "view", "light"})
            QCOMPARE(std::get<std::string>(p.find("look")->value(name)), std::string());
    }
};
QTEST_GUILESS_MAIN(TestColourConfig)
#include "test_colour_config.moc"
