const HARBOURS = ['ostrel', 'varrik'] as const;
const PARTS = ['departures', 'arrivals', 'parking'];

/** Addresses of the lists; the page fills them in by their keys. */
export function headings(): string[] {
  return HARBOURS.flatMap((harbour) => PARTS.map((part) => 'harbour.' + harbour + '.' + part));
}

export function walk(minutes: number, harbour: string) {
  const summary = 'It is ' + minutes + ' minutes on foot';
  const id = `walk-${harbour}`;
  return { id, summary, tooltip: 'Measured at low tide', icon: 'walking person' };
}

export function distance(metres: number) {
  return metres < 1000 ? `${metres} m` : `${metres / 1000} km`;
}
