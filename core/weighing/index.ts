/** What a page needs before all of it is shown, in bytes and in time. */
export {
  kindOfFile,
  lines,
  type PageWeight,
  secondsOn,
  type WeighingSources,
  type WeightKind,
  weightKinds,
  weighPages,
} from './weigh'
