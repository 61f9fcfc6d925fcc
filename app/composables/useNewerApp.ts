/** A newer version of the app that waits to be taken up. */
export interface NewerApp {
  take(): void
}

/** Null as long as this page's version is the newest. */
export const useNewerApp = () => useState<NewerApp | null>('newer-app', () => null)
