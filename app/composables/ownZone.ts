/** The zone that somebody's times are told in: their own choice, else what the browser says. */
export const ownZone = (): string => useAccount().me?.zone ?? Intl.DateTimeFormat().resolvedOptions().timeZone
