/** Fetched apart: what people have of a plan may be HTML, and takes its parser. */
export { guessPlanForm, readPlan } from '#core/plan'
