import { z } from 'zod';
import { slotSchema, type SlotName } from '../expected/contract';
import { act, ask } from '../operation/operation';
import { emailSchema } from '../people/contract';
import {
  drawnBox,
  mostDrawnLines,
  mostDrawnPoints,
  mostRemindDays,
  mostSigners,
  type Drawn,
  type SealState,
  type SignAnswer,
  type SignOffState,
  type SignOffWay,
  type SignProof,
} from './model';

const id = z.uuid();
const reason = z.string().trim().min(1, 'Say why.').max(1000, 'At most 1,000 characters fit.');
const day = z.iso.date('That is no day: 2026-07-14 is the form.');
const name = z.string().trim().min(1, 'Whose name?').max(120, 'At most 120 characters fit.');

/** Somebody who is asked: with an account, or outside by an address. */
const signer = z.union([z.strictObject({ personId: id }), z.strictObject({ name, email: emailSchema })]);
export type AskedSigner = z.output<typeof signer>;

/** One who was asked, as the list of a sign-off shows them. */
export interface SignerRow {
  readonly id: string;
  readonly name: string;
  /** They have no account. */
  readonly outside: boolean;
  readonly answer: SignAnswer | null;
  readonly reason: string;
  /** ISO 8601; of a signature on paper the day. */
  readonly answeredAt: string | null;
  readonly proof: SignProof | null;
  readonly isTurn: boolean;
  readonly isMe: boolean;
  /** They have left, or may not see the paper any more: they cannot answer. Told to those who can do something about it. */
  readonly cannotAnswer: boolean;
}

/** A sign-off of one version. */
export interface SignOffRow {
  readonly id: string;
  readonly way: SignOffWay;
  readonly state: SignOffState;
  readonly versionNumber: number;
  readonly sha256: string;
  readonly wording: string;
  readonly inTurn: boolean;
  readonly needed: number;
  readonly agreed: number;
  readonly of: number;
  /** ISO 8601. */
  readonly dueOn: string | null;
  readonly askedBy: string;
  readonly askedAt: string;
  readonly endReason: string;
  readonly signers: readonly SignerRow[];
  readonly sealState: SealState;
  /** The signed copy, or the scan of what was signed on paper; null where there is none that the caller may see. */
  readonly signedPaper: { readonly id: string; readonly title: string } | null;
  /** Whether the caller may withdraw it, and release those who cannot answer. */
  readonly mayManage: boolean;
}

/** All about the signatures of one paper. */
export interface PaperSignOffs {
  readonly currentNumber: number;
  readonly signOffs: readonly SignOffRow[];
  /** What this paper is the signed copy, or the scan, of: as far as the caller may see that. */
  readonly signedOf: readonly {
    readonly signOffId: string;
    readonly documentId: string;
    readonly title: string;
    readonly versionNumber: number;
    readonly words: string;
    readonly sha256: string;
  }[];
  readonly isPdf: boolean;
  /** Whether the caller may ask for signatures: only who manages the paper is told who may see it. */
  readonly mayAsk: boolean;
  /** Whether the caller may say that it is a signed scan. */
  readonly mayMark: boolean;
}

/** Who can be asked, and where the signed copy can go. */
export interface SignOffChoices {
  readonly people: readonly { readonly id: string; readonly name: string }[];
  /** Expected papers that are missing, to which the caller may add. */
  readonly slots: readonly { readonly slot: SlotName; readonly words: string; readonly placeName: string }[];
  /** Which of them this paper's signed copy most likely is; null: none. */
  readonly likely: number | null;
}

/** A signature that waits for the caller, or that the caller asked for. */
export interface SignOffLine {
  readonly signOffId: string;
  readonly documentId: string;
  readonly title: string;
  readonly placeName: string;
  readonly way: SignOffWay;
  readonly state: SignOffState;
  readonly words: string;
  readonly versionNumber: number;
  /** Whose answer is waited for. */
  readonly waitsFor: readonly string[];
  readonly isMyTurn: boolean;
  readonly askedByMe: boolean;
  readonly askedBy: string;
  readonly askedAt: string;
  readonly dueOn: string | null;
  readonly today: string;
}

/** What is found out about one seal of a PDF. */
export interface SealFound {
  /** `whole`: nothing was changed since. `continued`: whole, but something was added after it. */
  readonly state: 'whole' | 'altered' | 'continued' | 'unreadable';
  /** Whether it is this library's own seal. */
  readonly isOurs: boolean;
  /** As the certificate names its owner; not proven where it is not ours. */
  readonly by: string;
}

/** What somebody outside is asked. */
export interface AskedOutside {
  readonly name: string;
  readonly way: SignOffWay;
  readonly wording: string;
  readonly askedBy: string;
  readonly versionNumber: number;
  readonly sha256: string;
  /** `over`: it has come to an end without them. */
  readonly standing: 'myTurn' | 'later' | 'answered' | 'over';
  readonly answer: SignAnswer | null;
}

/** A drawn name as it comes in: whole numbers within the box, and not too many. */
export const drawnSchema: z.ZodType<Drawn, Drawn> = z
  .array(
    z
      .array(z.number().int().min(0).max(Math.max(drawnBox.width, drawnBox.height)))
      .min(4)
      .max(mostDrawnPoints * 2)
      .refine((line) => line.length % 2 === 0, 'A point has two numbers.'),
  )
  .max(mostDrawnLines)
  .refine((lines) => lines.reduce((sum, line) => sum + line.length / 2, 0) <= mostDrawnPoints, 'Too much was drawn.');

/** What someone outside answers. */
export const outsideAnswerSchema = z.discriminatedUnion('answer', [
  z.strictObject({ answer: z.literal('agreed'), typedName: z.string().trim().max(120), drawn: drawnSchema }),
  z.strictObject({ answer: z.literal('declined'), reason }),
]);
export type OutsideAnswer = z.output<typeof outsideAnswerSchema>;

/** Questions and acts about signatures. */
export const signOffContract = {
  'signoff.of': ask<PaperSignOffs>()(z.object({ documentId: id })),
  'signoff.choices': ask<SignOffChoices>()(z.object({ documentId: id })),
  /** `versionNumber`: the version that was looked at. `slot`: the expected paper that the signed copy is; null: filed beside the paper. */
  'signoff.ask': act<{ signOffId: string; notReached: readonly string[] }>()(
    z.object({
      documentId: id,
      versionNumber: z.number().int().min(1),
      way: z.enum(['sign', 'approve']),
      signers: z.array(signer).min(1, 'Who is asked?').max(mostSigners, `At most ${mostSigners} people are asked.`),
      inTurn: z.boolean(),
      /** How many have to agree; null: all. */
      needed: z.number().int().min(1, 'One at least.').nullable(),
      wording: z.string().trim().max(2000, 'At most 2,000 characters fit.'),
      dueOn: day.nullable(),
      remindDays: z.number().int().min(0).max(mostRemindDays),
      slot: slotSchema.nullable(),
    }),
  ),
  /** Answers with one's password, as proof of who answers. */
  'signoff.answer': act()(
    z.object({
      signerId: id,
      answer: z.enum(['agreed', 'declined']),
      reason: z.string().trim().max(1000, 'At most 1,000 characters fit.'),
      password: z.string().max(1000),
    }),
  ),
  'signoff.withdraw': act()(z.object({ signOffId: id, reason })),
  'signoff.release': act()(z.object({ signerId: id, reason })),
  'signoff.callAgain': act<{ notReached: readonly string[] }>()(z.object({ signerId: id })),
  'signoff.sealAgain': act()(z.object({ signOffId: id })),
  /** Says that a paper is the scan of what was signed on paper: of a version of another paper, or of an earlier one of its own. */
  'signoff.markOnPaper': act<{ signOffId: string }>()(
    z.object({
      scanId: id,
      documentId: id,
      versionNumber: z.number().int().min(1),
      signers: z
        .array(z.strictObject({ name, on: day }))
        .min(1, 'Who signed?')
        .max(mostSigners, `At most ${mostSigners} people fit.`),
    }),
  ),
  /** What waits for the caller and what the caller asked for; of a keeper's all, everybody's. */
  'signoff.lines': ask<readonly SignOffLine[]>()(z.object({ whose: z.enum(['mine', 'all']) })),
  /** The seals of a paper's current content. */
  'seal.check': ask<readonly SealFound[]>()(z.object({ documentId: id })),
};
