/** Masses and lengths in the units of who reads them. Documents stay metric; the sizes of units come from the server. */
import { api, ask, type Schemas } from '../api/client';
import { typed } from '../ui/typed';

type Unit = Schemas['UnitView'];
/** What says which units somebody reads: a client, or what the coach set for all that is no client's. */
type Reader = { mass_unit?: string; length_unit?: string } | null | undefined;

class Known {
  units: Unit[] = $state.raw([]);
  coach: Schemas['CoachDoc'] | null = $state.raw(null);
  private asked = false;

  /** Read once, at the first need. */
  read() {
    if (this.asked) return;
    this.asked = true;
    void this.again();
  }

  async again() {
    const [units, coach] = await Promise.all([ask(api.GET('/api/units')), ask(api.GET('/api/coach'))]);
    this.units = units.data ?? this.units;
    this.coach = coach.data ?? this.coach;
  }
}
export const known = new Known();

export type Units = ReturnType<typeof unitsOf>;

export function unitsOf(reader: Reader) {
  known.read();
  const find = (id: string, of: string) =>
    known.units.find((u) => u.id === id) ?? { id: of, of, size: 1, step: 0 };
  const length = find(reader?.length_unit ?? 'cm', 'cm');
  const mass = find(reader?.mass_unit ?? 'kg', 'kg');
  const shown = (value: number, unit: Unit) => {
    const out = value / unit.size;
    return unit.step ? +(Math.round(out / unit.step) * unit.step).toFixed(6) : out;
  };
  const meant = (text: string, unit: Unit) => typed(text) * unit.size;
  return {
    length: length.id,
    mass: mass.id,
    /** A length as people read it, with its unit. */
    show: (cm: number) => `${length.step ? shown(cm, length) : Math.round(cm)} ${length.id}`,
    lengthText: (cm: number) => String(shown(cm, length)),
    massText: (kg: number) => String(shown(kg, mass)),
    /** A value of kg or cm in its unit here; of any other unit as it is. */
    value: (value: number, unit: string) =>
      unit === 'cm' ? shown(value, length) : unit === 'kg' ? shown(value, mass) : value,
    /** The unit that stands for kg or cm here. */
    unit: (unit: string) => (unit === 'cm' ? length.id : unit === 'kg' ? mass.id : unit),
    /** What was typed, in cm. */
    asCm: (text: string) => meant(text, length),
    /** What was typed, in kg. */
    asKg: (text: string) => meant(text, mass),
    /** What was typed in the unit here, in kg or cm. */
    meant: (text: string, unit: string) =>
      unit === 'cm' ? meant(text, length) : unit === 'kg' ? meant(text, mass) : typed(text),
  };
}

/** The units of what is no client's: kit, rooms, calculators. */
export const coachUnits = () => unitsOf(known.coach);
