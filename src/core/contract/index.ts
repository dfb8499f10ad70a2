import type { z } from 'zod';
import { agendaContract } from '../agenda/contract';
import { accessContract } from '../access/contract';
import { acrossContract } from '../across/contract';
import { accountContract } from '../people/accountContract';
import { backupContract } from '../backup/contract';
import { columnsContract } from '../columns/contract';
import { deskContract } from '../desk/contract';
import { disposalContract } from '../disposal/contract';
import { documentsContract } from '../documents/contract';
import { dossiersContract } from '../dossiers/contract';
import { expectedContract } from '../expected/contract';
import { meetingsContract } from '../meetings/contract';
import { minutesContract } from '../minutes/contract';
import { plansContract } from '../plans/contract';
import { journalContract } from '../journal/contract';
import { labelsContract } from '../labels/contract';
import { libraryContract } from '../library/contract';
import { outsideContract } from '../outside/contract';
import { intakeContract } from '../intake/contract';
import { waysContract } from '../intake/waysContract';
import { packsContract } from '../packs/contract';
import { peopleContract } from '../people/contract';
import { placesContract } from '../places/contract';
import { likenessContract } from '../likeness/contract';
import { notesContract } from '../notes/contract';
import { readingContract } from '../reading/contract';
import { exportsContract } from '../exports/contract';
import { followContract } from '../follow/contract';
import { healthContract } from '../health/contract';
import { handContract } from '../hand/contract';
import { holdsContract } from '../holds/contract';
import { retentionContract } from '../retention/contract';
import { reviewsContract } from '../reviews/contract';
import { signOffContract } from '../signoff/contract';
import { searchContract } from '../search/contract';
import { uploadsContract } from '../uploads/contract';
import { viewsContract } from '../views/contract';

/** All operations of the server. The server implements them; the screens call them. */
export const contract = {
  ...accessContract,
  ...accountContract,
  ...acrossContract,
  ...agendaContract,
  ...minutesContract,
  ...backupContract,
  ...columnsContract,
  ...deskContract,
  ...disposalContract,
  ...documentsContract,
  ...dossiersContract,
  ...expectedContract,
  ...journalContract,
  ...labelsContract,
  ...libraryContract,
  ...meetingsContract,
  ...outsideContract,
  ...intakeContract,
  ...waysContract,
  ...packsContract,
  ...peopleContract,
  ...placesContract,
  ...plansContract,
  ...likenessContract,
  ...notesContract,
  ...readingContract,
  ...exportsContract,
  ...followContract,
  ...healthContract,
  ...handContract,
  ...holdsContract,
  ...retentionContract,
  ...reviewsContract,
  ...signOffContract,
  ...searchContract,
  ...uploadsContract,
  ...viewsContract,
} as const;

/** The type of the whole contract. */
export type Contract = typeof contract;
/** The name of any operation. */
export type OperationName = keyof Contract;
/** An operation's input before its schema is applied. */
export type InputOf<N extends OperationName> = z.input<Contract[N]['input']>;
/** An operation's input after its schema is applied. */
export type ReadInputOf<N extends OperationName> = z.output<Contract[N]['input']>;
/** An operation's output. */
export type OutputOf<N extends OperationName> =
  NonNullable<Contract[N]['output']> | Extract<Contract[N]['output'], null>;

/** Whether a text is the name of an operation. */
export const isOperation = (name: string): name is OperationName => Object.hasOwn(contract, name);
