/** What is wrong or risky in a site, with where and why. */
export { type Finding, findFindings, type FindingSources } from './findings'
export { type Advice, adviseOnPlan } from './advice'
