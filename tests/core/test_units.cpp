#include "base/atomic_file.h"
#include "base/error.h"
#include "base/random.h"
#include "base/shown_units.h"
#include "base/simd.h"
#include "base/units.h"
#include "base/words.h"
#include "support.h"

using namespace hygros;

class TestUnits : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void errorsAreSaidBySentencesWithPlaces()
    {
        setSentences({{"frame %1 is not baked", "Bild %1 ist nicht gebacken"},
                      {"frame %1 of '%2' is not baked", "von '%2' ist Bild %1 nicht gebacken"},
                      {"element '%1': %2", "Element '%1': %2"},
                      {"%1 must be a number", "%1 muss eine Zahl sein"},
                      {"Baking", "Beim Backen von"},
                      {"Bake it first.", "Zuerst backen."}});
        QCOMPARE(sentence("frame 12 is not baked"), std::string("Bild 12 ist nicht gebacken"));
        // Of two that fit, the one that says more; its places in an order of its own.
        QCOMPARE(sentence("frame 12 of 'mist' is not baked"), std::string("von 'mist' ist Bild 12 nicht gebacken"));
        // What fills a place is said so too.
        QCOMPARE(sentence("element 'a': top must be a number"), std::string("Element 'a': top muss eine Zahl sein"));
        for (const char* unknown : {"", "frame 12 is baked", "is not baked", "frame ", "%1"})
            QCOMPARE(sentence(unknown), std::string(unknown));
        QCOMPARE(QString(inputError("Baking", "mist", "frame 3 is not baked", "Bake it first.").what()),
                 QString("Beim Backen von 'mist': Bild 3 ist nicht gebacken. Zuerst backen."));
        setSentences({});
        QCOMPARE(QString(inputError("Baking", "mist", "frame 3 is not baked", "Bake it first.").what()),
                 QString("Baking 'mist': frame 3 is not baked. Bake it first."));
    }
    void notesAreToldInWordsWithPlaces()
    {
        QCOMPARE(words("It covers %1 m², %2 deep, 100 % of it.", {"12", "3 m"}),
                 std::string("It covers 12 m², 3 m deep, 100 % of it."));
        setWords([](const std::string& english) {
            return english == "%1 of %2 fell" ? std::string("von %2 fielen %1") : english;
        });
        QCOMPARE(words("%1 of %2 fell", {"3", "%1"}), std::string("von %1 fielen 3")); // what is told has no places
        QCOMPARE(words("%1 of %2 fell", {"3"}), std::string("von %2 fielen 3"));
        QCOMPARE(words("%1 of %2 rose", {"3", "4"}), std::string("3 of 4 rose"));
        setWords(nullptr);
    }
    void visibilityOf1kmIsTwoPointNineNineSixPerKm()
    {
        // WMO: V = ln(1/0.05)/σt.
        NEAR(extinctionOfVisibility(1000.0), 2.995732273553991e-3, 1e-12);
        NEAR(visibilityOfExtinction(0.01), 299.5732273553991, 1e-12);
        NEAR(visibilityOfMeanFreePath(15.6), 15.6 * 2.995732273553991, 1e-12);
        NEAR(std::exp(-extinctionOfVisibility(46.0) * 46.0), 0.05, 1e-12);
    }

    void typedTextMeansWhatAnArtistExpects_data()
    {
        QTest::addColumn<QString>("text");
        QTest::addColumn<int>("quantity");
        QTest::addColumn<double>("wanted");
        const auto row = [](const char* text, Quantity q, double v) {
            QTest::newRow(text) << QString(text) << int(q) << v;
        };
        row("2 km", Quantity::Visibility, 2000);
        row("2km", Quantity::Length, 2000);
        row("0.01 /m", Quantity::Visibility, 299.5732273553991);
        row("10 /km", Quantity::Visibility, 299.5732273553991);
        row("15 m mfp", Quantity::Visibility, 15 * visibilityConstant);
        row("mfp 15 m", Quantity::Visibility, 15 * visibilityConstant);
        row("2,5 m", Quantity::Length, 2.5);
        row("5 cm", Quantity::Length, 0.05);
        row("10 ft", Quantity::Length, 3.048);
        row("35 deg", Quantity::Angle, 35);
        row("1 rad", Quantity::Angle, 57.29577951308232);
        row("36 km/h", Quantity::Speed, 10);
        row("62 %", Quantity::Share, 0.62);
        row("4 klm", Quantity::Flux, 4000);
        row("-1.5", Quantity::Exposure, -1.5);
        row("+2 EV", Quantity::Exposure, 2);
        row("5600 K", Quantity::Temperature, 5600);
        row("20 °C", Quantity::Temperature, 293.15);
        row("-40 C", Quantity::Temperature, 233.15);
        row("60 mph", Quantity::Speed, 26.8224);
        row("10 in", Quantity::Visibility, 0.254);
    }
    void typedTextMeansWhatAnArtistExpects()
    {
        QFETCH(QString, text);
        QFETCH(int, quantity);
        QFETCH(double, wanted);
        const auto v = parseQuantity(text.toStdString(), Quantity(quantity));
        QVERIFY(v.has_value());
        NEAR(*v, wanted, 1e-12);
    }

    void quantitiesAreShownAsChosenAndUnderstoodBack()
    {
        ShownUnits units;
        units.length = ShownUnits::Length::Feet;
        units.speed = ShownUnits::Speed::KilometresPerHour;
        units.comma = true;
        setShownUnits(units);
        QCOMPARE(shownUnits(), units);
        QCOMPARE(formatQuantity(0.3048, Quantity::Length), std::string("1 ft"));
        QCOMPARE(formatQuantity(0.0254, Quantity::Length), std::string("1 in"));
        QCOMPARE(formatQuantity(8046.72, Quantity::Visibility), std::string("5 mi"));
        QCOMPARE(formatQuantity(0.0, Quantity::Length), std::string("0 ft"));
        QCOMPARE(formatQuantity(12.5, Quantity::Speed), std::string("45 km/h"));
        QCOMPARE(formatQuantity(0.125, Quantity::Share), std::string("12,5 %"));
        for (int q = 0; q <= static_cast<int>(Quantity::Coefficient); ++q)
            for (double v = 3e-3; v < 2e5; v *= 2.7) {
                const std::string text = formatQuantity(v, Quantity(q));
                const auto back = parseQuantity(text, Quantity(q));
                QVERIFY2(back && std::abs(*back / v - 1.0) < 6e-3, text.c_str());
            }
        // Bare numbers, which files are made of, stay what they are.
        QCOMPARE(formatNumber(2.5), std::string("2.5"));
        setShownUnits({});
        QCOMPARE(formatQuantity(2.5, Quantity::Length), std::string("2.5 m"));
    }

    void nonsenseIsRefused()
    {
        for (const char* text : {"", "km", "nan", "inf", "-inf", "2 apples", "1e999", "2 km 3", "0 /m", "-3 /m"})
            QVERIFY2(!parseQuantity(text, Quantity::Visibility), text);
        QVERIFY(!parseQuantity("3 km", Quantity::Angle));
    }

    void numbersAreWrittenShort()
    {
        QCOMPARE(formatQuantity(2500, Quantity::Visibility), std::string("2.5 km"));
        QCOMPARE(formatQuantity(46, Quantity::Length), std::string("46 m"));
        QCOMPARE(formatQuantity(0.004, Quantity::Length), std::string("4 mm"));
        QCOMPARE(formatQuantity(-0.3, Quantity::Length), std::string("-0.3 m"));
        QCOMPARE(formatQuantity(7, Quantity::Angle), std::string("7°"));
        QCOMPARE(formatNumber(0.064213, 2), std::string("0.064"));
    }

    void whatIsWrittenReadsBack()
    {
        for (const double v : {0.05, 0.46, 4.6, 46.0, 460.0, 4600.0, 46000.0})
            NEAR(*parseQuantity(formatQuantity(v, Quantity::Visibility), Quantity::Visibility), v, 5e-3);
    }

    void vectorExponentialAndLogarithmMatchTheLibrary()
    {
        for (float x = -80.f; x < 80.f; x += 0.37f) {
            NEAR(exp8(f8(x))[3], std::exp(double(x)), 1e-6);
            NEAR(atan8(f8(x))[2], std::atan(double(x)), 1e-6);
            NEAR(tan8(atan8(f8(x)))[6], double(x), 1e-6 * (1.0 + std::abs(double(x))));
        }
        for (float x = 1e-6f; x < 1e6f; x *= 1.17f)
            QVERIFY(std::abs(double(log8(f8(x))[5]) - std::log(double(x))) <
                    1e-6 * std::max(1.0, std::abs(std::log(double(x)))));
    }

    void blueNoiseIsEvenlySpreadAndUsesEveryRankOnce()
    {
        const BlueNoise& tile = BlueNoise::tile();
        std::vector<int> seen(4096, 0);
        double sum = 0.0, low = 0.0;
        for (int y = 0; y < 64; ++y)
            for (int x = 0; x < 64; ++x) {
                const float v = tile.at(x, y, 0);
                ++seen[static_cast<std::size_t>(v * 4096)];
                sum += double(v);
                // Power at low frequency: 8×8 block means of white noise would vary by 1/12/64.
                if (x % 8 == 0 && y % 8 == 0) {
                    double mean = 0.0;
                    for (int k = 0; k < 64; ++k)
                        mean += double(tile.at(x + k % 8, y + k / 8, 0)) / 64.0;
                    low += (mean - 0.5) * (mean - 0.5) / 64.0;
                }
            }
        NEAR(sum / 4096, 0.5, 1e-3);
        QVERIFY(std::all_of(seen.begin(), seen.end(), [](int n) { return n == 1; }));
        QVERIFY2(low < 0.25 / 12.0 / 64.0, qPrintable(QString::number(low)));
    }

    void randomNumbersDrawnTogetherFillTheirSpace()
    {
        // One pixel over many passes: each pair lies as evenly as a (0, 2)-sequence, two pairs fill four dimensions.
        const BlueNoise& tile = BlueNoise::tile();
        const auto turned = [&](std::uint32_t purpose, std::uint32_t pass) {
            const float v = tile.at(5, 9, purpose, pass) - tile.at(5, 9, purpose);
            return v < -1e-6f ? v + 1.f : std::max(0.f, v);
        };
        for (const std::uint32_t purpose : {3u, 5u, 7u, 29u}) {
            std::vector<int> cells(64, 0);
            for (std::uint32_t pass = 0; pass < 256; ++pass)
                ++cells[static_cast<std::size_t>(std::min(7.f, 8.f * turned(purpose, pass))) * 8 +
                        static_cast<std::size_t>(std::min(7.f, 8.f * turned(purpose + 1, pass)))];
            for (const int n : cells)
                QVERIFY2(n >= 3 && n <= 5, qPrintable(QString("%1 of 4 in purpose %2").arg(n).arg(purpose)));
        }
        std::vector<char> together(256, 0);
        for (std::uint32_t pass = 0; pass < 1024; ++pass) {
            std::size_t cell = 0;
            for (const std::uint32_t purpose : {3u, 4u, 5u, 6u})
                cell = cell * 4 + static_cast<std::size_t>(std::min(3.f, 4.f * turned(purpose, pass)));
            together[cell] = 1;
        }
        QVERIFY(std::count(together.begin(), together.end(), 1) > 240); // of random points 251 on average
    }

    void aFailedWriteLeavesTheOldFileAndNoRubbish()
    {
        QTemporaryDir dir;
        const std::filesystem::path file = dir.filePath("a.txt").toStdString();
        writeTextAtomically(file, "first");
        THROWS_SAYING(writeAtomically(file,
                                      [](const std::filesystem::path& temporary) {
                                          writeTextAtomically(temporary, "half");
                                          throw workingError("Writing", "a.txt", "the disk is full");
                                      }),
                      "the disk is full");
        QCOMPARE(readText(file, "Reading"), std::string("first"));
        QCOMPARE(QDir(dir.path()).entryList(QDir::Files | QDir::Hidden).size(), 1);
        THROWS_SAYING(writeTextAtomically(dir.filePath("no/such/folder.txt").toStdString(), "x"),
                      "the folder does not exist");
    }
};
QTEST_APPLESS_MAIN(TestUnits)
#include "test_units.moc"
