/// Writes the lock at Marl, its tender, a beacon and a weir as binary glTF, and what volumes its demos use.
#include "marl.h"
#include "matter.h"

#include <cstdio>
#include <exception>

int main(int argc, char** argv)
{
    if (argc != 6) {
        std::fputs("usage: hygros-marl LOCK.glb TENDER.glb BEACON.glb WEIR.glb VOLUMES-FOLDER\n", stderr);
        return 2;
    }
    try {
        using namespace hygros::demo;
        Marl marl;
        layGround(marl);
        buildLock(marl);
        buildHut(marl);
        buildBoat(marl);
        buildBridge(marl);
        raiseLampPosts(marl);
        plantPoplars(marl);
        sowGrass(marl);
        const auto meshes = marl.meshes();
        std::size_t triangles = 0;
        for (const Builder& b : meshes)
            triangles += b.indices.size() / 3;
        writeGlb(argv[1], meshes, paintTextures());
        std::printf("%s: %zu triangles\n", argv[1], triangles);
        const auto writeAlone = [](const char* file, void (*build)(Marl&)) {
            Marl alone;
            build(alone);
            std::vector<Builder> parts;
            for (Builder& b : alone.meshes())
                if (!b.indices.empty())
                    parts.push_back(std::move(b));
            writeGlb(file, parts, paintTextures());
        };
        writeAlone(argv[2], buildTender);
        writeAlone(argv[3], buildBeacon);
        writeAlone(argv[4], buildWeir);
        makeMatter(argv[5]);
        return 0;
    } catch (const std::exception& e) {
        std::fprintf(stderr, "hygros-marl: %s\n", e.what());
        return 3;
    }
}
