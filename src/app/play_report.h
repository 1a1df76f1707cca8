#pragma once
/// Whether a kept run comes on time while somebody works in the window; for runs of it that nobody looks at.
namespace hygros::app {
class MainWindow;

struct PlayReport {
    int due = 0;    ///< frames whose time went by while it played
    int onTime = 0; ///< of these, how many the Picture began to draw before the next one's time
};
/// Returns after so long; events come meanwhile.
void waited(int milliseconds);

/// Waits for the project that is being opened, draws a kept run of its first `frames` frames with one pass each, plays
/// it for so many seconds, and meanwhile moves the pointer over the Picture, turns the Bench's pages, goes through the
/// families and rolls their cards. Takes as long as the drawing does and `seconds`; none due where the
/// project cannot be opened or a frame not drawn.
PlayReport reportPlay(MainWindow& window, int frames, int seconds);
} // namespace hygros::app
