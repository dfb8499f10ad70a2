import clsx from 'clsx';
import { useId, type ComponentProps, type ReactNode } from 'react';

const box = 'w-full rounded-sm border bg-sheet px-2.5 text-base text-ink placeholder:text-soft';

interface Shared {
  readonly label: string;
  readonly help?: ReactNode;
  /** What is wrong with what was typed; a whole sentence. */
  readonly wrong?: string | undefined;
}

/** Ties a label, its help and what is wrong to one control. */
function Framed({ label, help, wrong, id, children }: Shared & { readonly id: string; readonly children: ReactNode }) {
  return (
    <div className="mb-3.5">
      <label htmlFor={id} className="mb-1 block text-sm font-semibold">
        {label}
      </label>
      {children}
      {help !== undefined && (
        <p id={`${id}-help`} className="mt-1 text-sm text-soft">
          {help}
        </p>
      )}
      {wrong !== undefined && (
        <p id={`${id}-wrong`} role="alert" className="mt-1 text-sm text-ember-ink">
          {wrong}
        </p>
      )}
    </div>
  );
}

const described = (id: string, { help, wrong }: Pick<Shared, 'help' | 'wrong'>) => ({
  'aria-describedby': clsx(help !== undefined && `${id}-help`, wrong !== undefined && `${id}-wrong`) || undefined,
  'aria-invalid': wrong !== undefined || undefined,
});

/** A one-line text field. */
export function TextField({ label, help, wrong, className, ...rest }: Shared & ComponentProps<'input'>) {
  const id = useId();
  return (
    <Framed {...{ label, help, wrong, id }}>
      <input
        id={id}
        className={clsx(box, 'h-[34px]', wrong === undefined ? 'border-edge' : 'border-ember', className)}
        {...described(id, { help, wrong })}
        {...rest}
      />
    </Framed>
  );
}

/** A box to tick, with its label beside it. */
export function CheckField({
  label,
  help,
  checked,
  onChange,
}: Omit<Shared, 'wrong'> & { readonly checked: boolean; readonly onChange: (checked: boolean) => void }) {
  const id = useId();
  return (
    <div className="mb-3.5 grid grid-cols-[auto_minmax(0,1fr)] gap-x-2">
      <input
        id={id}
        type="checkbox"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
        className="mt-1 size-[15px] accent-brine"
        {...described(id, { help, wrong: undefined })}
      />
      <label htmlFor={id} className="font-semibold">
        {label}
      </label>
      {help !== undefined && (
        <p id={`${id}-help`} className="col-start-2 text-sm text-soft">
          {help}
        </p>
      )}
    </div>
  );
}

/** A field of several lines. */
export function LongField({ label, help, wrong, className, ...rest }: Shared & ComponentProps<'textarea'>) {
  const id = useId();
  return (
    <Framed {...{ label, help, wrong, id }}>
      <textarea
        id={id}
        rows={3}
        className={clsx(box, 'py-1.5', wrong === undefined ? 'border-edge' : 'border-ember', className)}
        {...described(id, { help, wrong })}
        {...rest}
      />
    </Framed>
  );
}

/** A choice from a few. */
export function ChoiceField({ label, help, wrong, className, children, ...rest }: Shared & ComponentProps<'select'>) {
  const id = useId();
  return (
    <Framed {...{ label, help, wrong, id }}>
      <select
        id={id}
        className={clsx(box, 'h-[34px] border-edge', className)}
        {...described(id, { help, wrong })}
        {...rest}
      >
        {children}
      </select>
    </Framed>
  );
}
