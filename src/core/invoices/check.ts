import type { Invoice } from './model';

/** A sum of a bill that does not come out. */
export interface InvoiceFault {
  /** The rule of EN 16931-1 that it breaks. */
  readonly rule: 'BR-CO-10' | 'BR-CO-13' | 'BR-CO-14' | 'BR-CO-15' | 'BR-CO-16';
  readonly says: string;
}

const sum = (amounts: readonly number[]): number => amounts.reduce((before, each) => before + each, 0);

/** The sums of a bill that do not come out, by the rules of EN 16931-1, 6.5 (its document level conditions BR-CO-10 to 16). */
export function invoiceFaults({ lines, taxes, totals, currency }: Invoice): InvoiceFault[] {
  const money = (amount: number) => `${currency} ${(amount / 100).toFixed(2)}`;
  const { allowances, charges, net, tax, gross, paid, rounding, payable } = totals;
  const rules: readonly (readonly [InvoiceFault['rule'], string, stated: number, comesTo: number])[] = [
    ['BR-CO-10', 'The lines', totals.lines, sum(lines.map((line) => line.net))],
    ['BR-CO-13', 'The total before tax', net, totals.lines - allowances + charges],
    ['BR-CO-14', 'The tax', tax ?? 0, sum(taxes.map(({ amount }) => amount))],
    ['BR-CO-15', 'The total with tax', gross, net + (tax ?? 0)],
    ['BR-CO-16', 'What is to be paid', payable, gross - paid + rounding],
  ];
  return rules.flatMap(([rule, what, stated, comesTo]) =>
    stated === comesTo
      ? []
      : [{ rule, says: `${what}: ${money(stated)} is stated, and it comes to ${money(comesTo)}.` }],
  );
}
