export * from './live'
export * from './operations'
export * from './roles'
export * from './shown'
