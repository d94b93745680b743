// What a thread of ours begins with: TypeScript for what is imported, and not for `require`, which the pool tries first. All
// modules would be made into such of CommonJS by it, parsers too, and each name they import from one another into a call.
import { register } from 'tsx/esm/api'

register()
