/// The rules of docs/architecture.md that can be read off the sources.
#include "image/image.h"
#include "support.h"

#include <QDirIterator>
#include <QRegularExpression>
#include <QTemporaryDir>

using namespace hygros;

namespace {
const QStringList order{"base", "image", "scene",    "geometry", "media",  "light",
                        "shot", "sim",   "elements", "render",   "finish", "reading"};

struct Include {
    QString file, folder, what;
};
QList<Include> includes(const QString& root)
{
    QList<Include> all;
    QDirIterator it(root, {"*.h", "*.cpp"}, QDir::Files, QDirIterator::Subdirectories);
    static const QRegularExpression line("^\\s*#\\s*include\\s*[<\"]([^>\"]+)[>\"]",
                                         QRegularExpression::MultilineOption);
    while (it.hasNext()) {
        QFile f(it.next());
        if (!f.open(QIODevice::ReadOnly))
            continue;
        auto match = line.globalMatch(QString::fromUtf8(f.readAll()));
        while (match.hasNext())
            all << Include{f.fileName(), QDir(root).relativeFilePath(f.fileName()).section('/', 0, 0),
                           match.next().captured(1)};
    }
    return all;
}
} // namespace

class TestStructure : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void coreIncludesNoQt()
    {
        const auto all = includes(QString(SOURCE_DIR) + "/src/core");
        QVERIFY(all.size() > 100);
        static const QRegularExpression qt("^(Q[A-Z]|Qt|q[a-z]+global)");
        for (const Include& i : all)
            QVERIFY2(!qt.match(i.what).hasMatch(), qPrintable(i.file + " includes " + i.what));
    }

    void foldersUseOnlyThoseAboveThem()
    {
        for (const Include& i : includes(QString(SOURCE_DIR) + "/src/core")) {
            const QString from = i.what.section('/', 0, 0);
            if (!order.contains(from) || !i.what.contains('/'))
                continue;
            QVERIFY2(order.contains(i.folder), qPrintable(i.folder));
            QVERIFY2(order.indexOf(from) <= order.indexOf(i.folder), qPrintable(i.file + " uses " + i.what));
        }
    }

    void nothingBelowUsesTheApplication()
    {
        for (const char* root : {"/src/core", "/src/cli", "/demo"})
            for (const Include& i : includes(QString(SOURCE_DIR) + root))
                QVERIFY2(!i.what.startsWith("app/"), qPrintable(i.file));
    }

    /// The library of picture formats takes as long to link as a project to open: it comes with the first picture.
    void picturesComeWithTheFirstOfThem()
    {
        const auto isIn = [] {
            QFile maps("/proc/self/maps");
            return maps.open(QIODevice::ReadOnly) && maps.readAll().contains("libOpenImageIO");
        };
        QVERIFY(!isIn());
        QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("one.png").toStdString();
        image::writePng(file, 2, 1, {255, 0, 0, 0, 0, 255});
        QVERIFY(isIn());
        QCOMPARE(image::readImage(file).width, 2);
    }

    void sourcesStayReadable()
    {
        QDirIterator it(QString(SOURCE_DIR) + "/src", {"*.h", "*.cpp"}, QDir::Files, QDirIterator::Subdirectories);
        while (it.hasNext()) {
            QFile f(it.next());
            QVERIFY(f.open(QIODevice::ReadOnly));
            const auto lines = f.readAll().count('\n');
            QVERIFY2(lines < 600, qPrintable(QString("%1 has %2 lines").arg(f.fileName()).arg(lines)));
        }
    }
};
QTEST_GUILESS_MAIN(TestStructure)
#include "test_structure.moc"
