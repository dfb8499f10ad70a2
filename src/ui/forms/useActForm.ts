'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import type { BaseSyntheticEvent } from 'react';
import { useForm, type DefaultValues, type FieldValues, type Path, type UseFormReturn } from 'react-hook-form';
import { contract, type InputOf, type OperationName, type OutputOf } from '@/core/contract';
import { issueKinds } from '@/core/errors/issue';
import { Refusal } from '@/core/errors/refusal';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';

/** A form over the input of an act. */
export interface ActForm<N extends OperationName> {
  readonly form: UseFormReturn<InputOf<N> & FieldValues>;
  readonly submit: (event?: BaseSyntheticEvent) => void;
  /** What the act answered; undefined until then. */
  readonly answer: OutputOf<N> | undefined;
  readonly isPending: boolean;
  /** What is wrong with a field, by the contract's schema or by the server. */
  readonly wrong: (field: Path<InputOf<N> & FieldValues>) => string | undefined;
  /** What is wrong with none of the fields shown. */
  readonly refused: string | undefined;
}

/**
 * A form whose fields are the input of an act: checked by the contract's own schema before it is sent; what the server
 * refuses of a field is said at that field.
 */
export function useActForm<N extends OperationName>(
  name: N,
  defaults: InputOf<N>,
  onDone?: (answer: OutputOf<N>) => void,
): ActForm<N> {
  type Fields = InputOf<N> & FieldValues;
  const act = useAct(name, { quiet: true });
  // What is sent is what was typed: the server reads it by the same schema.
  const check = zodResolver(contract[name].input as never, undefined, { raw: true }) as never;
  const form = useForm<Fields>({ resolver: check, defaultValues: defaults as DefaultValues<Fields> });
  const send = async (input: Fields) => {
    try {
      const answer = await act.mutateAsync(input);
      onDone?.(answer);
    } catch (error) {
      const fields = error instanceof Refusal ? (error.issue.fields ?? []) : [];
      for (const { path, says } of fields) form.setError(path as Path<Fields>, { message: says });
      if (fields.length === 0) form.setError('root', { message: saysOf(error) });
    }
  };
  return {
    form,
    submit: (event) => void form.handleSubmit(send as never)(event),
    answer: act.data,
    isPending: act.isPending,
    wrong: (field) => form.getFieldState(field, form.formState).error?.message,
    refused: form.formState.errors.root?.message ?? besides(form.formState.errors),
  };
}

/** What is wrong with a part of the input for which the form has no field, so that sending is never refused in silence. */
function besides(errors: object): string | undefined {
  const loose = Object.entries(errors).find(([name, error]) => name !== 'root' && !(error as { ref?: unknown }).ref);
  if (!loose) return undefined;
  const { message } = loose[1] as { message?: string };
  return message ?? issueKinds.invalid.says;
}

/** For a field that may be left empty: nothing, or nothing but spaces, is sent as none. */
export const blankIsNone = {
  setValueAs: (raw: unknown) => (typeof raw === 'string' && raw.trim() === '' ? null : raw),
};
