import { customType, timestamp } from 'drizzle-orm/pg-core';

/** A moment, with its zone. */
export const instant = () => timestamp({ withTimezone: true, mode: 'date' });

/** Raw bytes. node-postgres sends and receives them as Buffer. */
export const bytea = customType<{ data: Buffer; driverData: Buffer }>({ dataType: () => 'bytea' });

/** Text in natural order for people: numbers by value, accents and case by CLDR (an ICU collation made by the first migration). */
export const naturalText = customType<{ data: string }>({ dataType: () => 'text collate "natural"' });

/** Terms of the index, compared byte by byte. */
export const termText = customType<{ data: string }>({ dataType: () => 'text collate "C"' });
