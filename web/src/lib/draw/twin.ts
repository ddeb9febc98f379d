/** The drawings as tables: what a profile shows, in rows that can be read out. */
import type { Profile } from '../api/client';
import { poseAt, shapeOf, torqueAt } from './shape';

export type TwinRow = { length: number; over: string; under: string; readings: [string, string] };

const words = (torque: number | null) => (torque === null ? 'not reached' : `${torque.toFixed(1)} N·m`);

/** Both profiles every tenth of the muscle's length that either reaches, with what the joint reads there. */
export function twinRows(above: Profile, below: Profile, target: string): TwinRow[] {
  const [over, under] = [shapeOf(above, target), shapeOf(below, target)];
  const out: TwinRow[] = [];
  for (let tenth = 0; tenth <= 10; tenth += 1) {
    const x = tenth / 10;
    const [a, b] = [torqueAt(over, x), torqueAt(under, x)];
    if (a === null && b === null) continue;
    const reading = (profile: Profile, torque: number | null) =>
      torque === null ? '' : (profile.reading[poseAt(profile, target, x)] ?? '');
    out.push({
      length: x,
      over: words(a),
      under: words(b),
      readings: [reading(above, a), reading(below, b)],
    });
  }
  return out;
}

/** Where a profile is hardest and how far it goes, in a sentence. */
export function sentence(profile: Profile, target: string, name: string): string {
  const shape = shapeOf(profile, target);
  const curve = profile.targets[target];
  if (!curve || !shape.lengths.length) return `Does not load the ${name}.`;
  const at = curve.effective_nm.indexOf(Math.max(...curve.effective_nm));
  const percent = (x: number | undefined) => `${Math.round((x ?? 0) * 100)} %`;
  return (
    `Loads the ${name} from ${percent(shape.lengths[0])} to ${percent(shape.lengths.at(-1))} of its length, ` +
    `hardest at ${percent(curve.length[at])} with ${shape.peak.toFixed(1)} N·m, ${profile.reading[at]}.`
  );
}
