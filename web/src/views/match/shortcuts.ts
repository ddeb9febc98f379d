import type { Shortcut } from '../../lib/ui/keys';
import type { Bench } from './match.svelte';

/** What the view itself does at a key. */
export type On = {
  step: (by: number) => void;
  nextPlace: () => void;
  back: () => void;
  tab: (to: 'set-up' | 'hands' | 'judgement') => void;
  sides: () => void;
  table: () => void;
  filters: () => void;
  why: () => void;
};

function nextLens(bench: Bench) {
  const all = bench.lenses?.lenses ?? [];
  const i = all.findIndex((l) => l.id === bench.rank.lens);
  const next = all[(i + 1) % all.length];
  if (next) void bench.again({ lens: next.id });
}

/** Keys of the match bench. */
export function shortcutsOf(bench: Bench, on: On): Shortcut[] {
  return [
    {
      keys: ['ArrowLeft'],
      shown: '←',
      does: 'Candidate to the left',
      run: () => bench.choose(bench.chosen - 1),
    },
    {
      keys: ['ArrowRight'],
      shown: '→',
      does: 'Candidate to the right',
      run: () => bench.choose(bench.chosen + 1),
    },
    { keys: ['ArrowUp'], shown: '↑', does: 'Line before', run: () => on.step(-1) },
    { keys: ['ArrowDown'], shown: '↓', does: 'Line after', run: () => on.step(1) },
    { keys: ['Enter'], shown: 'Enter', does: 'Accept this swap', run: () => void bench.accept() },
    {
      keys: ['u', 'Control+z'],
      shown: 'U',
      does: 'Undo what was accepted here',
      run: () => void bench.undo(),
    },
    {
      keys: ['Shift+ArrowLeft', ','],
      shown: ',',
      does: 'Plumb line toward the lengthened end',
      run: () => bench.nudge(-0.04),
    },
    {
      keys: ['Shift+ArrowRight', '.'],
      shown: '.',
      does: 'Plumb line toward the shortened end',
      run: () => bench.nudge(0.04),
    },
    { keys: ['p'], shown: 'P', does: 'Next place', run: on.nextPlace },
    { keys: ['v'], shown: 'V', does: 'Look from the next side', run: () => bench.turnView() },
    {
      keys: ['s'],
      shown: 'S',
      does: 'Heights to own peak, or in N·m',
      run: () => (bench.absolute = !bench.absolute),
    },
    { keys: [' '], shown: 'Space', does: 'Play through the range', run: () => bench.play() },
    { keys: ['b'], shown: 'B', does: 'Set it by hand', run: () => on.tab('hands') },
    { keys: ['n'], shown: 'N', does: 'Set up, in words', run: () => on.tab('set-up') },
    { keys: ['j'], shown: 'J', does: 'Judgement', run: () => on.tab('judgement') },
    { keys: ['Backspace'], shown: '⌫', does: 'Back to the solved set-up', run: () => bench.snap() },
    { keys: ['c'], shown: 'C', does: 'Compare with this one', run: () => bench.compare() },
    { keys: ['f'], shown: 'F', does: 'Figures from three sides', run: () => on.sides() },
    { keys: ['t'], shown: 'T', does: 'Ribbon and figures as a table', run: () => on.table() },
    { keys: ['i'], shown: 'I', does: 'Next lens', run: () => nextLens(bench) },
    { keys: ['o'], shown: 'O', does: 'What to leave out', run: () => on.filters() },
    { keys: ['w'], shown: 'W', does: 'Why this match', run: () => on.why() },
    { keys: ['Escape'], shown: 'Esc', does: 'Back to the roster', run: () => on.back() },
  ];
}
