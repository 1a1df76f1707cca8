#pragma once
/// One picture being refined: what was traced (surfaces, shadow bits; independent of the media) and what was
/// accumulated (light through the present media).
///
/// Order of use:   trace(pass) … light(pass) …   for pass = 0, 1, 2, …; quickPicture() any time after
/// traceSurfaces(0); it starts the lit passes over.
/// A change of media keeps everything traced: setAir(), then light(0), light(1), … again, which replays the recorded
/// bits; passes beyond the recorded ones continue tracing.
#include "render/air_kernel.h"
#include "render/layers.h"
#include "render/surface.h"

#include <atomic>
#include <memory>
#include <vector>

namespace hygros::render {

class Frame {
public:
    /// Picture sizes from 8×8 up; `recordBytes` bounds what is kept for replaying.
    Frame(std::shared_ptr<const shot::Shot> shot, int width, int height, std::size_t recordBytes);

    int width() const { return width_; }
    int height() const { return height_; }

    /// Other media, look or lamp strengths; scene, camera, lamp places and sun direction must be as they were.
    /// `noiseChanged`: where noise is sampled or what it is; recorded noise is then taken anew.
    void setAir(std::shared_ptr<const shot::Shot> shot, bool noiseChanged);
    const shot::Shot& shot() const { return *shot_; }

    /// The first half of trace(): surfaces alone, enough for a quick picture.
    bool traceSurfaces(int pass, const std::atomic<bool>& stop);
    int surfacePasses() const { return surfacePasses_; }
    /// Traces one sample a pixel and its shadow bits. Returns false when `stop` was raised; call again to go on
    /// where it ended. Does nothing when the pass is recorded already.
    bool trace(int pass, const std::atomic<bool>& stop);
    /// Adds one pass of air light and transmittance; needs trace(pass). False when stopped: the sums are then
    /// void until setAir() or restart().
    bool light(int pass, const std::atomic<bool>& stop);
    void restart() { litPasses_ = 0; }
    int litPasses() const { return litPasses_; }
    int tracedPasses() const { return tracedPasses_; }

    /// A whole picture from air at a quarter of the size, surfaces lit at full size: linear RGB.
    bool quickPicture(std::vector<float>& rgb, const std::atomic<bool>& stop);
    /// The mean of the lit passes: linear RGB. The very first pass is smoothed along even depths.
    void resolve(std::vector<float>& rgb) const;
    Layers layers() const;
    /// Air light of one medium alone, or (lamp ≥ 0) all light of one lamp, at the quarter size: for thumbnails.
    struct Contribution {
        int width = 0, height = 0;
        std::vector<float> rgb;
    };
    Contribution mediumAlone(const std::string& id);
    Contribution lampAlone(const std::string& id);

    std::size_t recordedPasses() const { return records_.size(); }
    std::size_t bytes() const;
    /// Distance along the ray to what covers most of pixel (x, y).
    float depthAt(int x, int y) const;

private:
    static constexpr int clusterCount = 3;
    static constexpr int mirrorSegments = 6;
    static constexpr int quickSegments = 12;
    /// Which pieces of a ray get fresh shadow rays.
    enum class Fresh {
        Each,    ///< all
        Grouped, ///< one speaks for each group of three
        Rolling, ///< a third, turning from pass to pass; the others keep what was seen before
    };
    struct Cluster {
        float weight = 0.f, t = 0.f; ///< samples in it; their mean distance
        LightParts light;            ///< sums over the samples
    };
    /// Sums over the passes in which the cluster was there.
    struct Through {
        float passes[clusterCount]{};
        float view[clusterCount]{}, sun[clusterCount]{}, sky[clusterCount]{}, diffuse[clusterCount]{};
    };
    struct MirrorCluster {
        float weight = 0.f, t1 = 0.f, t = 0.f;
        Vec3 point{0.f}, direction{0.f}, reflectance{0.f};
        LightParts light;
        float passes = 0.f;        ///< lit passes in the following sums
        Vec3 air{0.f};
        float view = 0.f, sun = 0.f, sky = 0.f, diffuse = 0.f;
    };
    struct Mirror {
        std::uint32_t pixel = 0;
        MirrorCluster clusters[2];
    };
    /// Noise of one pass as it was sampled, a byte a value (see NoiseRecord), by groups of eight rays.
    struct NoiseStore {
        std::vector<std::uint8_t> air;                  ///< [group][segment][noisy][2][8]
        std::vector<std::uint8_t> surface;              ///< [group][cluster][noisy][8]: way from surfaces to the sun
        std::vector<std::vector<std::uint8_t>> mirrors; ///< [row][group][segment][noisy][2][8] and [noisy][8]
        bool valid = false;
    };
    /// Shadow bits and noise of one pass.
    struct Record {
        std::vector<std::uint32_t> sun;                 ///< [pixel] bit i: piece i in the sun
        std::vector<std::uint8_t> sky;                  ///< [pixel] bit i: pieces 3i…3i+2 see the sky
        std::vector<std::uint8_t> spots;                ///< [lamp][pixel] bit i: sample i in the lamp's light
        std::vector<std::vector<std::uint8_t>> mirrors; ///< [row][mirror cluster] bit i: piece i in the sun
        NoiseStore noise;
        bool traced = false;
    };
    struct QuickCell {
        Vec3 direction;
        float span = 0.f, logScale = 0.f, jitter = 0.f;
        std::uint32_t sun = 0;
        std::uint8_t sky = 0;
    };

    std::size_t index(int x, int y) const { return static_cast<std::size_t>(y) * static_cast<std::size_t>(width_) + static_cast<std::size_t>(x); }
    std::size_t groupsPerRow() const { return (static_cast<std::size_t>(width_) + 7) / 8; }
    /// Rays through the centres of eight pixels from x on; the last column is repeated past the edge.
    media::Ray8 raysAt(int x, int y) const;
    void surfacesRow(int y, int pass);
    void addMirror(int y, std::size_t pixel, const SurfaceSample::Mirror& m, float t1, const Vec3* spots);
    void findSpans();
    void airBitsRow(int y, int pass, Record& record, const Record* before);
    /// Refreshes the sun and sky bits of eight rays.
    void traceBits(const media::Ray8& ray, F8 end, F8 jitter, int segments, int pass, Fresh fresh, unsigned active,
                   std::uint32_t sun[8], std::uint8_t sky[8], int x, int y) const;
    Record& recordFor(int pass) { return static_cast<std::size_t>(pass) < records_.size() ? records_[static_cast<std::size_t>(pass)] : rolling_; }
    void lightRow(int y, int pass, Record& record);
    /// `share`: neighbours may be marched together (quick pictures).
    void lightMirrorsRow(int y, int pass, const Record* record, NoiseStore& noise, bool share);
    /// Makes room; true when what is in it can be read.
    NoiseRecord surfaceNoise(NoiseStore& store, std::size_t group, int cluster, bool write) const;
    __m128 airUpTo(const std::size_t at[4], const float bilinear[4], float t, float logT) const;
    bool prepare(NoiseStore& store, std::size_t airBytes) const;
    /// Air between surfaces and their light: sun, sky share, diffused sun; at eight points.
    void surfaceAir(F8 x, F8 y, F8 z, F8 jitter, const NoiseRecord& noise, F8& sun, F8& sky, F8& diffuse) const;
    /// Clusters 0 in planes, for lighting eight pixels at once.
    void packSurfaces();
    /// Light of summed parts through the air, per sample.
    Vec3 lit(const LightParts& light, const Vec3* spots, const Vec3& point, float sun, float sky, float diffuse,
             float samples) const;
    /// The mirrored part of a pixel's surfaces; `view` are the transmittances to its clusters.
    Vec3 litMirrors(std::size_t pixel, int y, const float* view) const;
    /// What lies behind the air of one pixel, times transmittance; and the transmittance itself.
    Vec3 behindAir(std::size_t pixel, int y, const Through& through, float& transmittance) const;
    bool buildQuick(const std::atomic<bool>& stop);
    bool marchQuick(const std::atomic<bool>& stop, int onlyMedium, std::vector<float>& profile);
    void resetMirrorSums(int y);

    std::shared_ptr<const shot::Shot> shot_;
    std::unique_ptr<AirModel> air_;
    std::unique_ptr<SurfaceSampler> sampler_;
    Vec3 diffuseTint_{0.f}; ///< diffused sunlight relative to the sky's, by channel
    int width_, height_;
    geometry::View view_;
    std::size_t recordBytes_;
    std::size_t lampCount_;

    // Traced
    std::vector<Cluster> clusters_;  ///< [pixel][3]
    std::vector<Vec3> spotLight_;    ///< [pixel][3][lamp], sums
    std::vector<float> sheet_[10];   ///< planes of cluster 0 per sample: t, emitted, sun, sky
    std::vector<std::uint8_t> plain_; ///< [pixel] 1: cluster 0 is all there is, and no lamp lights it
    std::vector<float> samples_;     ///< [pixel]
    std::vector<float> span_;        ///< [pixel] how far the air is marched
    std::vector<std::vector<Mirror>> mirrors_;   ///< [row][…]: one task owns a row, so rows grow without locks
    std::vector<std::vector<Vec3>> mirrorSpots_; ///< [row][mirror][2][lamp], sums
    std::vector<std::int32_t> mirrorOf_; ///< [pixel] → place in its row's mirrors, or −1
    int tracedPasses_ = 0, surfacePasses_ = 0;
    int stage_ = 0;
    std::vector<char> rowDone_;
    std::vector<Record> records_; ///< passes 0…
    Record rolling_;              ///< the newest pass after the recorded ones

    // Lit
    int litPasses_ = 0;
    std::vector<float> airSun_, airSky_; ///< [pixel][3] sums
    std::vector<float> airSpot_;         ///< [pixel][lamp][3] sums
    std::vector<Through> through_;

    // Quarter-size air
    int quickWidth_, quickHeight_;
    bool quickBuilt_ = false;
    std::vector<QuickCell> quickCells_;
    std::vector<std::uint8_t> quickSpots_;
    NoiseStore quickNoise_;
    std::vector<float> quickProfile_; ///< [cell][segment][4]
};
} // namespace hygros::render
