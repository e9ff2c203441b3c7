/**
 * When a dispatch goes, and how it moves from state to state.
 *
 * `momentOf` turns a date, time and zone into an instant; `DISPATCH_STATES` and `canMove` are the state machine;
 * `Rhythm` is how something repeats, `nextDates` when; `hasDrifted` says when others would get it than were confirmed.
 */
export { hasDrifted } from "./drift";
export { DEEDS, type DeedKind, type Life, LifeSchema, type Living, PACES } from "./life";
export { type Manner, MannersSchema, mannersFor, STEPS, USUAL_MANNERS } from "./manners";
export {
  dateBefore,
  NTHS,
  nextDates,
  nthWords,
  type Rhythm,
  RhythmSchema,
  rhythmWords,
  WEEKDAY_NAMES,
} from "./rhythm";
export { isZone, momentOf, momentWords, ScheduleError } from "./schedule";
export { canMove, DISPATCH_STATES, type DispatchState } from "./states";
