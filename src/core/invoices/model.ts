import { z } from 'zod';

const hundredths = z.number().int();

/**
 * A bill as data, by the terms of EN 16931-1 (BT numbers). Amounts in hundredths of the currency: the standard has at most two decimals
 * (its rules BR-DEC). A total that is not stated is null, or 0 where leaving it out means nothing.
 */
export const invoiceSchema = z.object({
  syntax: z.enum(['UBL', 'CII']),
  isCredit: z.boolean(),
  /** BT-1. */
  number: z.string(),
  /** BT-2, ISO 8601. */
  day: z.string(),
  /** BT-9; null: it is not said. */
  due: z.string().nullable(),
  /** BT-73 and BT-74, as an interval of ISO 8601; null where either is not said. */
  period: z.string().nullable(),
  /** BT-5, ISO 4217. */
  currency: z.string(),
  /** BT-27, BT-31 and BT-84. */
  seller: z.object({ name: z.string(), taxNumber: z.string().nullable(), account: z.string().nullable() }),
  /** BT-44. */
  buyer: z.string(),
  /** BT-13 or BT-10: what the buyer calls it. */
  reference: z.string().nullable(),
  /** BG-25: what it is for, how much of it (BT-129), and its amount (BT-131). */
  lines: z.array(z.object({ name: z.string(), quantity: z.string(), net: hundredths })),
  /** BG-23: so much tax (BT-117) of so much (BT-116), and its rate in percent (BT-119). */
  taxes: z.array(z.object({ rate: z.number().nullable(), base: hundredths, amount: hundredths })),
  totals: z.object({
    /** BT-106, of the lines. */
    lines: hundredths,
    /** BT-107 and BT-108. */
    allowances: hundredths,
    charges: hundredths,
    /** BT-109, before tax. */
    net: hundredths,
    /** BT-110. */
    tax: hundredths.nullable(),
    /** BT-112. */
    gross: hundredths,
    /** BT-113 and BT-114. */
    paid: hundredths,
    rounding: hundredths,
    /** BT-115. */
    payable: hundredths,
  }),
});
export type Invoice = z.output<typeof invoiceSchema>;
