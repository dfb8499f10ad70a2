import { z } from 'zod';

/** Papers of one type, by a term in a column of a controlled list, as they are sent. */
export const ofTypeSchema = z.object({ columnId: z.uuid(), termId: z.uuid() });
