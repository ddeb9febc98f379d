/** A client's own units of length and mass; documents stay metric. */
import type { ClientDoc } from '../../lib/api/client';
import { typed } from '../../lib/ui/typed';

const CM_AN_INCH = 2.54;
const KG_A_POUND = 0.45359237;

export type Units = ReturnType<typeof unitsOf>;

export function unitsOf(doc: ClientDoc | null) {
  const inches = doc?.length_unit === 'in';
  const pounds = doc?.mass_unit === 'lb';
  return {
    length: inches ? 'in' : 'cm',
    mass: pounds ? 'lb' : 'kg',
    /** A length as people read it, with its unit. */
    show: (cm: number) => (inches ? `${(cm / CM_AN_INCH).toFixed(1)} in` : `${Math.round(cm)} cm`),
    lengthText: (cm: number) => String(inches ? +(cm / CM_AN_INCH).toFixed(2) : cm),
    massText: (kg: number) => String(pounds ? +(kg / KG_A_POUND).toFixed(1) : kg),
    /** What was typed, in cm. */
    asCm: (text: string) => typed(text) * (inches ? CM_AN_INCH : 1),
    /** What was typed, in kg. */
    asKg: (text: string) => typed(text) * (pounds ? KG_A_POUND : 1),
  };
}
