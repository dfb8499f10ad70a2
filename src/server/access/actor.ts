/** Someone on whose behalf the server acts. Made from a session, a job or a script; never from input. */
export interface Actor {
  readonly personId: string;
  readonly name: string;
  readonly email: string;
  /** Keepers manage all. */
  readonly keeper: boolean;
}
