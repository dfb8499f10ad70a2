import { saysOf } from '../server/call';

/** A page while its answer is on the way, or refused. */
export function Waiting({ what, error }: { readonly what: string; readonly error: Error | null }) {
  return (
    <main id="main" className="flex-1 p-6" aria-busy={error === null || undefined}>
      {error ? <p role="alert">{saysOf(error)}</p> : `Loading ${what}…`}
    </main>
  );
}
