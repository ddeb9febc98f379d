import type { PlaceDoc, Schemas } from '../../lib/api/client';
import { coachUnits } from '../../lib/units/units.svelte';

export type What = 'band' | 'column' | 'cam' | 'joint';
export type Way = 'stand-in' | 'file' | 'typed';
export type Kept = Schemas['MeasurementView'];
export type Item = PlaceDoc['kit'][number];
export type Row = { at: number; value: number; zero: number; down?: number | null };
export const KIND: Record<What, string> = { band: 'band', column: 'cable_column', cam: 'machine', joint: '' };
const UNITS: Record<What, { at: string; value: string; point: string }> = {
  band: { at: 'cm', value: 'N', point: 'length' },
  column: { at: 'kg', value: 'N', point: 'pin' },
  cam: { at: '°', value: 'N', point: 'angle of the arm' },
  joint: { at: 's', value: '°', point: 'time' },
};

/** What a point and a reading are in, for who measures: lengths and pins in the coach's units. */
export function shownUnits(what: What) {
  const units = coachUnits();
  return {
    ...UNITS[what],
    at: units.unit(UNITS[what].at),
    /** A point as it is read. */
    point: UNITS[what].point,
    text: (at: number) => String(units.value(at, UNITS[what].at)),
    meant: (text: string) => units.meant(text, UNITS[what].at),
  };
}

/** Readings of a measurement as they stand in the table. */
export function rowsOf({ readings }: Schemas['MeasurementDoc']): Row[] {
  return readings.map((r) => ({ at: r.at, value: r.value, zero: r.zero ?? 0, down: r.down ?? null }));
}

/** To a tenth; nothing is nothing, without a sign. */
export const tenths = (v: number) => v.toFixed(1).replace(/^-0\.0$/, '0.0');
