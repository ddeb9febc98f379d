import type { MatchDoc, Prescribed, Swap } from '../../lib/api/client';
import { bestView } from '../../lib/draw/frame';
import type { View } from '../../lib/draw/geometry';
import { shapeOf, spanOf } from '../../lib/draw/shape';

/** Seconds from one end of the range to the other while it plays. */
const PLAY_S = 2.6;
/** Steps from one end to the other for who wants less motion. */
const STILLS = 4;

/** What stands above the axis: the prescription, or another set-up that is compared with. */
export type Above = Pick<Prescribed, 'title' | 'kit' | 'profile'> & {
  load: string;
  reps: string;
  key: string;
};

/** The plumb line through both profiles, and the side that the figures are seen from. */
export abstract class Plumb {
  abstract match: MatchDoc | null;
  abstract swap: Swap | null;
  abstract above: Above | null;
  at = $state(0.5);
  playing = $state(false);
  fixedView: View | null = $state(null);

  get view(): View {
    return this.fixedView ?? (this.swap?.profile ? bestView(this.swap.profile) : 'side');
  }

  /** Hang the plumb line where the prescription is hardest: the first thing to compare. */
  protected restAtPeak() {
    const curve = this.match?.prescribed.profile?.targets[this.match.prescribed.target];
    if (!curve) return;
    this.at = curve.length[curve.effective_nm.indexOf(Math.max(...curve.effective_nm))] ?? 0.5;
  }

  private span(): [number, number] {
    const target = this.match?.prescribed.target ?? '';
    const shapes = [this.above?.profile, this.swap?.profile].flatMap((q) => (q ? [shapeOf(q, target)] : []));
    return shapes.length ? spanOf(shapes) : [0, 1];
  }

  /** Move the plumb line by a part of what is shown. */
  nudge(part: number) {
    const [low, high] = this.span();
    this.at = Math.min(high, Math.max(low, this.at + part * (high - low)));
  }

  /** Let the plumb line go to and fro through the range, as a slow repetition does. */
  play() {
    this.playing = !this.playing;
    let before = performance.now();
    let way = 1;
    // Who wants less motion is shown still poses, one after the other.
    const still = matchMedia('(prefers-reduced-motion: reduce)').matches;
    const [first, last] = this.span();
    let gone = (this.at - first) / Math.max(last - first, 1e-9);
    const frame = (now: number) => {
      if (!this.playing) return;
      const [low, high] = this.span();
      gone += (way * (now - before)) / 1000 / PLAY_S;
      before = now;
      if (gone >= 1 || gone <= 0) way = gone >= 1 ? -1 : 1;
      gone = Math.min(1, Math.max(0, gone));
      this.at = low + (high - low) * (still ? Math.round(gone * STILLS) / STILLS : gone);
      requestAnimationFrame(frame);
    };
    if (this.playing) requestAnimationFrame(frame);
  }

  turnView() {
    const views: View[] = ['side', 'front', 'top'];
    this.fixedView = views[(views.indexOf(this.view) + 1) % views.length] ?? 'side';
  }
}
