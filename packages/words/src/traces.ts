import type {
  IncompleteWhy,
  MarkerProblem,
  PlaceNote,
  PlannedPart,
  TraceCause,
  TraceEventKind,
  TraceMarkKind,
} from '@clear-mark/core';

/** What an event of a trace is. */
export const TRACE_EVENT_WORDS: Readonly<Record<TraceEventKind, string>> = {
  reflective: 'reflects',
  non_reflective: 'without reflection',
  end: 'end of the fiber',
};

/** What somebody marks on a trace. */
export const TRACE_MARK_WORDS: Readonly<Record<TraceMarkKind, string>> = {
  reflective: 'Reflecting event',
  non_reflective: 'Event without reflection',
  end: 'End of the fiber',
  ghost: 'Ghost',
};

/** Why markers give no number. */
export const MARKER_PROBLEM_WORDS: Readonly<Record<MarkerProblem, string>> = {
  crossed: 'The markers, or the ends of a window, are crossed: A lies before B.',
  outside: 'A marker or a window lies outside of the trace.',
  window_empty: 'A window holds too few points for a line.',
  window_in_event: 'A window holds an event or the dead zone behind one: move it onto plain fiber.',
  window_wrong_side: 'The window before ends at A, the one after begins at B.',
  in_noise: 'The trace has sunk into the noise there.',
};

/** Why a loss is not that of the whole link. */
export const INCOMPLETE_WORDS: Readonly<Record<IncompleteWhy, string>> = {
  no_launch_cord: 'without a launch cord the first connector is not in it',
  no_receive_cord: 'without a receive cord the last connector is not in it',
  not_marked: 'nobody said how long the cords are: this is from the port to the end',
  end_not_seen: 'the end of the fiber is not on the trace',
};

export const PLANNED_PART_WORDS: Readonly<Record<PlannedPart, string>> = {
  connection: 'connection',
  splice: 'splice',
};

/** What is to be known of a place of the plan on the trace. */
export const PLACE_NOTE_WORDS: Readonly<Record<PlaceNote, string>> = {
  too_small_to_see: 'nothing is seen from this end; the other end tells',
  not_found: 'nothing is seen here',
  not_measured: 'reads as one with its neighbour',
  gain: 'a gain from this side: only the mean of both ends tells',
  behind_end: 'behind the end of the fiber',
  needs_cord: 'measured only with a receive cord',
};

/** What speaks for the cause that a trace points to. */
export const TRACE_CAUSE_WORDS: Readonly<Record<TraceCause['because'], string>> = {
  end_before_plan: 'the fiber ends before its plan does',
  loss_reflects: 'it loses too much and sends back much',
  loss_only: 'it loses too much and sends back little',
  splice_loses: 'the splice loses more than its limit',
  unplanned_loss: 'something loses here that is not in the plan',
  grows: 'it loses more at the longer wavelength',
  nothing_there: 'nothing is seen where a connection is planned',
};

/** Two connectors of a cassette that read as one, or any others. */
export const partsWords = (parts: readonly PlannedPart[]): string => {
  const count = (part: PlannedPart): number => parts.filter((p) => p === part).length;
  return (['connection', 'splice'] as const)
    .filter((part) => count(part) > 0)
    .map((part) =>
      count(part) === 1 ? PLANNED_PART_WORDS[part] : `${count(part)} ${PLANNED_PART_WORDS[part]}s as one`,
    )
    .join(' and ');
};
