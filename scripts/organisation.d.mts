export interface OrganisationMember {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly vouched: boolean
}
export const PEOPLE: readonly OrganisationMember[]
export function startOrganisation(options: {
  readonly port?: number
  readonly app: string
  readonly people?: readonly OrganisationMember[]
}): Promise<{ readonly issuer: string; readonly env: Record<string, string>; close(): Promise<void> }>
