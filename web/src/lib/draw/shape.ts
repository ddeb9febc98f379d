import type { Profile } from '../api/client';

/** A resistance profile as drawn: torque over the target's normalised length, ascending in length. */
export type Shape = { lengths: number[]; torque: number[]; peak: number };

/** The resistance profile of one target: the computed means per bin of length, held up to the very ends of the movement. */
export function shapeOf(profile: Profile, target: string): Shape {
  const curve = profile.targets[target];
  if (!curve) return { lengths: [], torque: [], peak: 0 };
  const edges = profile.length_bins;
  const bins = curve.resistance_profile_nm.map((torque, i) => ({
    from: edges[i]!,
    to: edges[i + 1]!,
    torque,
  }));
  const [low, high] = [Math.min(...curve.length), Math.max(...curve.length)];
  const reached = bins.filter((b) => b.to > low && b.from < high);
  const middles = reached.map((b) => ({ x: (b.from + b.to) / 2, torque: b.torque }));
  const inside = middles.filter((m) => m.x > low && m.x < high);
  const ends = [
    { x: low, torque: middles[0]?.torque ?? 0 },
    { x: high, torque: middles.at(-1)?.torque ?? 0 },
  ];
  const nodes = [ends[0]!, ...inside, ends[1]!];
  return {
    lengths: nodes.map((n) => n.x),
    torque: nodes.map((n) => n.torque),
    peak: Math.max(...curve.resistance_profile_nm),
  };
}

/** A shape that was kept in little: torques at evenly spaced lengths. */
export function shapeInLittle(kept: { low: number; high: number; torque_nm: number[] }): Shape {
  const last = Math.max(1, kept.torque_nm.length - 1);
  return {
    lengths: kept.torque_nm.map((_, i) => kept.low + ((kept.high - kept.low) * i) / last),
    torque: kept.torque_nm,
    peak: Math.max(...kept.torque_nm),
  };
}

/** Torque at a length; null where the movement does not go. */
export function torqueAt(shape: Shape, x: number): number | null {
  const { lengths, torque } = shape;
  const last = lengths.length - 1;
  if (last < 0 || x < lengths[0]! - 1e-6 || x > lengths[last]! + 1e-6) return null;
  const i = Math.max(
    1,
    lengths.findIndex((v) => v >= x),
  );
  const [a, b] = [lengths[i - 1]!, lengths[i]!];
  const t = b > a ? Math.min(1, Math.max(0, (x - a) / (b - a))) : 1;
  return torque[i - 1]! + t * (torque[i]! - torque[i - 1]!);
}

/** Index of the pose whose target length is nearest `x`, counted along the movement. */
export function poseAt(profile: Profile, target: string, x: number): number {
  const length = profile.targets[target]?.length ?? [];
  let best = 0;
  length.forEach((v, i) => {
    if (Math.abs(v - x) < Math.abs((length[best] ?? 0) - x)) best = i;
  });
  return best;
}

/** The stretch of the length axis worth showing for these shapes, with some air at both ends. */
export function spanOf(shapes: Shape[]): [number, number] {
  const ends = shapes.flatMap((s) => [s.lengths[0] ?? 0, s.lengths.at(-1) ?? 1]);
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  const air = Math.max(0.03, 0.07 * (high - low));
  return [Math.max(0, low - air), Math.min(1, high + air)];
}

/** Heights 0..1 of a shape on a grid, to its own peak or to a common one; zero where it does not go. */
export function heights(shape: Shape, grid: number[], peak: number): number[] {
  return grid.map((x) => (torqueAt(shape, x) ?? 0) / (peak || 1));
}

/** A grid over a window that also holds both ends of every shape, so that edges stay upright. */
export function gridOver([low, high]: [number, number], shapes: Shape[], count = 140): number[] {
  const even = Array.from({ length: count + 1 }, (_, i) => low + ((high - low) * i) / count);
  const ends = shapes.flatMap((s) => {
    const [a, b] = [s.lengths[0], s.lengths.at(-1)];
    return a === undefined || b === undefined ? [] : [a - 1e-5, a, b, b + 1e-5];
  });
  return [...even, ...ends].filter((x) => x >= low && x <= high).sort((a, b) => a - b);
}
