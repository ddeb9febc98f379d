import type { Profile } from '../api/client';

/** A made-up client of 1.70 m, standing, who lifts the right arm sideways under a cable from the left; for tests only. */
export function sample(poses = 5): Profile {
  const still: Record<string, [number, number, number]> = {
    hips: [0, 0, 0.95],
    shoulders: [0, 0, 1.4],
    neck: [0, 0, 1.46],
    head: [0.02, 0, 1.6],
  };
  for (const [side, y] of [
    ['right', -1],
    ['left', 1],
  ] as const) {
    Object.assign(still, {
      [`${side} hip`]: [0, 0.09 * y, 0.9],
      [`${side} knee`]: [0.01, 0.1 * y, 0.48],
      [`${side} ankle`]: [0, 0.1 * y, 0.07],
      [`${side} heel`]: [-0.05, 0.1 * y, 0.02],
      [`${side} toe`]: [0.17, 0.11 * y, 0.02],
      [`${side} shoulder`]: [0, 0.19 * y, 1.38],
    });
  }
  const arm = (side: 'right' | 'left', i: number): Record<string, [number, number, number]> => {
    const y = side === 'right' ? -1 : 1;
    const a = side === 'right' ? (Math.PI / 2) * (i / (poses - 1)) : 0.1;
    const at = (d: number): [number, number, number] => [
      0,
      y * (0.19 + d * Math.sin(a)),
      1.38 - d * Math.cos(a),
    ];
    return {
      [`${side} elbow`]: at(0.3),
      [`${side} wrist`]: at(0.55),
      [`${side} grip`]: at(0.62),
      [`${side} thumb`]: add(at(0.62), [0.1, 0, 0]),
    };
  };
  const add = (p: [number, number, number], q: [number, number, number]): [number, number, number] => [
    p[0] + q[0],
    p[1] + q[1],
    p[2] + q[2],
  ];
  const range = Array.from({ length: poses }, (_, i) => i);
  const moving = range.map((i) => ({ ...arm('right', i), ...arm('left', i) }));
  const positions = Object.fromEntries([
    ...Object.entries(still).map(([name, p]) => [name, range.map(() => p)]),
    ...Object.keys(moving[0]!).map((name) => [name, moving.map((m) => m[name])]),
  ]);
  const length = range.map((i) => 0.8 - (0.5 * i) / (poses - 1));
  return {
    positions_m: positions,
    works: ['arm'],
    both: false,
    targets: { side_delt: { length, resistance_profile_nm: [0, 0, 4, 8, 12, 16, 10, 4, 0, 0] } },
    length_bins: Array.from({ length: 11 }, (_, i) => i / 10),
    pulls: [
      {
        prop: { kind: 'column', holes: [0.2, 0.6, 1.0], hole: 1, use: 'one' },
        ends_m: [[0.2, 0.9, 0.2]],
        at_m: moving.map((m) => m['right grip']),
        force_n: moving.map(() => [2, 30, -20]),
        mirrored: false,
      },
    ],
    slabs: [],
    moment_arm: {
      hinge_m: range.map(() => [0, -0.19, 1.38]),
      foot_m: range.map(() => [0, -0.3, 1.2]),
      length_cm: range.map((i) => 10 + 5 * i),
    },
  } as unknown as Profile;
}
