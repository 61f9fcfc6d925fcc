/** The zone that somebody's times are told in: their own choice, else what the browser says. */
export const ownZone = (): string => useAccount().me?.zone ?? browserZone()

/** The zone of this browser. */
export const browserZone = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone
