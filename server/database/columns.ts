import { customType, datetime } from 'drizzle-orm/mysql-core'

/** An address of ours: case matters, so it's compared by its bytes. */
export const key = customType<{ data: string; config: { length: number } }>({
  dataType: config => `varchar(${config?.length ?? 40}) CHARACTER SET ascii COLLATE ascii_bin`,
})
export const bytes = customType<{ data: Buffer }>({ dataType: () => 'mediumblob' })
export const instant = (name: string) => datetime(name, { mode: 'date', fsp: 3 })
