export * from './live'
export * from './operations'
export * from './roles'
