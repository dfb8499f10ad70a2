type Asker = () => Promise<boolean>;

let asker: Asker | null = null;
let asking: Promise<boolean> | null = null;

/** Registers who can ask the person to sign in again; returns the way to take that back. */
export function askToSignInWith(next: Asker): () => void {
  asker = next;
  return () => {
    if (asker === next) asker = null;
  };
}

/** Asks once, however many calls have found the session ended; true when the person is signed in again. */
export function signedInAgain(): Promise<boolean> {
  asking ??= (asker?.() ?? Promise.resolve(false)).finally(() => {
    asking = null;
  });
  return asking;
}
