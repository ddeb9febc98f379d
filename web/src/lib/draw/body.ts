import type { Profile } from '../api/client';
import { add, along, distance, nearness, type Circle, type Space, type View } from './geometry';

/** One piece of the figure: circles whose outline is drawn, and how quiet it is. */
export type Piece = { id: string; circles: Circle[]; tone: 'body' | 'far' | 'limb'; near: number };

type Joints = (name: string) => Space;

/** Pose `i` of a profile, by joint name. */
export function jointsAt(profile: Profile, i: number): Joints {
  return (name) => profile.positions_m[name]?.[i] ?? [0, 0, 0];
}

/**
 * The body as rounded pieces, far ones first.
 * Radii are parts of the trunk's length, so that the figure keeps its build whatever the client's size.
 */
export function pieces(profile: Profile, i: number, view: View): Piece[] {
  const at = jointsAt(profile, i);
  const unit = distance(at('hips'), at('shoulders')) / 0.288;
  const c = (p: Space, r: number): Circle => ({ at: p, r: r * unit });
  const limb = (name: 'arm' | 'leg', s: string): boolean =>
    (profile.works.includes(name) ||
      (name === 'arm' && ['scapula', 'wrist'].some((r) => profile.works.includes(r)))) &&
    (s === 'right' || profile.both);
  const spine = (t: number) => along(at('hips'), at('shoulders'), t);
  const side = (name: string) => add(at(`right ${name}`), at(`left ${name}`), -1).map((v) => v / 2);
  const rib = (t: number, sign: number, k: number) => add(spine(t), side('shoulder'), sign * k);
  const out: Piece[] = [];
  const put = (id: string, tone: Piece['tone'], circles: Circle[]) => {
    const near = Math.max(...circles.map((k) => nearness(view, k.at)));
    out.push({ id, circles, tone, near });
  };

  put('pelvis', 'body', [
    c(add(at('hips'), side('hip'), 0.75), 0.05),
    c(add(at('hips'), side('hip'), -0.75), 0.05),
    c(rib(0.42, 1, 0.32), 0.05),
    c(rib(0.42, -1, 0.32), 0.05),
  ]);
  const trunk = ['trunk', 'waist'].some((r) => profile.works.includes(r)) ? 'limb' : 'body';
  put('chest', trunk, [
    c(rib(0.42, 1, 0.32), 0.05),
    c(rib(0.42, -1, 0.32), 0.05),
    c(rib(0.74, 1, 0.5), 0.061),
    c(rib(0.74, -1, 0.5), 0.061),
    c(rib(0.97, 1, 0.86), 0.03),
    c(rib(0.97, -1, 0.86), 0.03),
  ]);
  const before = out.length;
  put('neck', 'body', [c(spine(0.98), 0.032), c(along(at('neck'), at('head'), 0.5), 0.028)]);
  // The head hides the neck from wherever one looks.
  if (out[before]) out[before].near = Math.min(out[before].near, nearness(view, at('head')) - 0.2);
  put('head', 'body', [
    c(at('head'), 0.053),
    c(along(at('head'), at('neck'), 0.42), 0.04),
    c(along(at('head'), at('neck'), -0.22), 0.05),
  ]);

  for (const s of ['left', 'right']) {
    const far = view === 'side' && s === 'left' ? 'far' : 'body';
    const joint = (n: string) => at(`${s} ${n}`);
    const legTone = limb('leg', s) ? (s === 'right' || view !== 'side' ? 'limb' : 'far') : far;
    put(`${s} thigh`, legTone, [
      c(joint('hip'), 0.052),
      c(along(joint('hip'), joint('knee'), 0.35), 0.05),
      c(joint('knee'), 0.031),
    ]);
    put(`${s} shank`, legTone, [
      c(joint('knee'), 0.03),
      c(along(joint('knee'), joint('ankle'), 0.3), 0.034),
      c(joint('ankle'), 0.019),
    ]);
    put(`${s} foot`, legTone, [
      c(along(joint('heel'), joint('ankle'), 0.3), 0.018),
      c(joint('ankle'), 0.02),
      c(joint('toe'), 0.014),
    ]);
    const tone = limb('arm', s) ? (s === 'right' || view !== 'side' ? 'limb' : 'far') : far;
    put(`${s} upper arm`, tone, [
      c(joint('shoulder'), 0.031),
      c(along(joint('shoulder'), joint('elbow'), 0.45), 0.027),
      c(joint('elbow'), 0.021),
    ]);
    put(`${s} forearm`, tone, [
      c(joint('elbow'), 0.021),
      c(along(joint('elbow'), joint('wrist'), 0.28), 0.023),
      c(joint('wrist'), 0.014),
    ]);
    put(`${s} fist`, tone, [c(joint('wrist'), 0.014), c(joint('grip'), 0.02)]);
  }
  // The working right arm stays in sight in the side view whatever lies before it.
  const rank = (p: Piece) =>
    (view === 'side' && p.id.startsWith('right') && p.tone === 'limb' ? 10 : 0) + p.near;
  return out.sort((a, b) => rank(a) - rank(b));
}
