import { saysOf } from '../server/call';

/** A page that is loading, or was refused. */
export function Waiting({ what, error }: { readonly what: string; readonly error: Error | null }) {
  return (
    <main id="main" className="flex-1 p-6" aria-busy={error === null || undefined}>
      {error ? <p role="alert">{saysOf(error)}</p> : `Loading ${what}…`}
    </main>
  );
}
