import { issue, type Issue, type IssueKind } from '@/core/errors/issue';
import { databaseError } from './sqlState';

/** Unique constraints that a person can violate, and what that means to them. */
export const takenBy: Readonly<Record<string, readonly [IssueKind, string?]>> = {
  place_reference_taken: ['reference-taken'],
  place_year_once: ['conflict', 'That filing year was made in the same moment. Load the page again.'],
  person_email_unique: ['address-taken'],
  person_group_nameKey_unique: ['name-taken', 'Another group already has that name. Choose a different name.'],
  column_name_taken: ['name-taken', 'Another column of this place already has that name. Choose a different name.'],
  list_name_taken: ['name-taken', 'Another list already has that name. Choose a different name.'],
  term_name_taken: ['name-taken', 'The list already has that value. Choose a different name.'],
  label_name_taken: ['name-taken', 'Another label already has that name. Choose a different name.'],
  version_number_once: ['conflict'],
  document_label_document_id_label_id_pk: ['conflict'],
  filing_once: ['conflict'],
  expected_say_once: ['conflict'],
  access_grant_once: ['conflict'],
  filing_plan_pkey: ['conflict'],
  filing_year_pkey: ['conflict'],
  retention_class_name_taken: ['name-taken', 'Another class already has that name. Choose a different name.'],
  retention_rule_once: ['conflict'],
  hold_on_once: ['conflict'],
  review_rule_once: ['conflict', 'Papers of that type have a cycle here already. Change that one.'],
};

/** Foreign keys whose rows a person keeps from going, and what that means to them. */
export const keptBy: Readonly<Record<string, readonly [IssueKind, string]>> = {
  hold_on_place_id_place_id_fk: ['locked', 'A hold is on this place. Nothing was removed. A keeper can lift the hold.'],
  hold_on_document_id_document_id_fk: [
    'locked',
    'A hold is on this paper. Nothing was destroyed. A keeper can lift the hold.',
  ],
  retention_rule_class_id_retention_class_id_fk: [
    'conflict',
    'Places give this class to their papers. Take it from them first.',
  ],
  pack_place_id_place_id_fk: ['conflict', 'A pack belongs to this place. Nothing was removed.'],
  disposal_run_place_id_place_id_fk: ['conflict', 'The certificate of a disposal is filed here. Nothing was removed.'],
};

const gone = 'Something this belongs to was removed meanwhile. Nothing was changed. Load the page again.';

/** What SQLSTATEs mean to a person, unless a constraint says more (PostgreSQL 15, appendix A). */
export const stateIssues: Readonly<Record<string, readonly [IssueKind, string?]>> = {
  // foreign_key_violation: the referenced row is gone, or is still referenced.
  '23503': ['conflict', gone],
  // unique_violation of a constraint not listed above: two people did the same at once.
  '23505': ['conflict'],
  // numeric_value_out_of_range, invalid_text_representation, untranslatable_character, character_not_in_repertoire
  '22003': ['invalid', 'A number is too large. Nothing was changed.'],
  '22P02': ['invalid', 'Something that was sent is not of the form it should have. Nothing was changed.'],
  '22P05': ['invalid', 'A text holds a character that cannot be kept. Nothing was changed.'],
  '22021': ['invalid', 'A text holds a character that cannot be kept. Nothing was changed.'],
  // lock_not_available, query_canceled
  '55P03': ['unavailable'],
  '57014': ['unavailable'],
  // disk_full, out_of_memory
  '53100': ['unavailable', 'The library has no room left on its disk. Nothing was changed. Tell a keeper.'],
  '53200': ['unavailable'],
};

/** What a database error means to a person; null for our own faults and for other errors. */
export function databaseIssue(error: unknown): Issue | null {
  const failed = databaseError(error);
  if (!failed) return null;
  const by = { '23505': takenBy, '23503': keptBy }[failed.code ?? ''];
  const named = by?.[failed.constraint ?? ''];
  const known = named ?? stateIssues[failed.code ?? ''];
  return known ? issue(known[0], known[1]) : null;
}
