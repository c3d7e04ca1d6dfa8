/**
 * Every error that can cross the wire: its HTTP status. The sentence for a person lives in the words package
 * under the same code; a test fails when one is missing.
 */
export const ERRORS = {
  'request.malformed': 400,
  'request.bad_field': 422,
  'request.too_large': 413,
  'request.wrong_origin': 403,
  'request.unknown_route': 404,
  'request.method_not_allowed': 405,
  'server.failed': 500,
  'server.unavailable': 503,
  'auth.required': 401,
  'auth.bad_credentials': 401,
  'auth.throttled': 429,
  'auth.role': 403,
  'auth.not_in_class': 403,
  'auth.demo_only': 403,
  'auth.bad_setup_code': 403,
  'auth.setup_done': 409,
  'auth.weak_password': 422,
  'person.login_taken': 409,
  'not_found.class': 404,
  'not_found.person': 404,
  'not_found.attempt': 404,
  'not_found.method_version': 404,
  'not_found.thing': 404,
  'not_found.reference': 404,
  'not_found.instrument': 404,
  'class.bad_time_zone': 422,
  'class.dates_crossed': 422,
  'class.already_member': 409,
  'class.wrong_role': 422,
  'thing.label_taken': 409,
  'attempt.trainee_not_in_class': 422,
  'attempt.method_not_in_use': 422,
  'attempt.thing_not_in_class': 422,
  'attempt.other_content': 409,
  'attempt.signed': 409,
  'entry.unknown_criterion': 422,
  'entry.not_author': 403,
  'entry.author_left': 403,
  'entry.capacity': 403,
  'entry.other_content': 409,
  'entry.unknown_target': 422,
  'entry.value_missing': 422,
  'entry.reference_missing': 422,
  'reference.not_instrument': 422,
  'sign.entries_differ': 409,
  'sign.conflict': 409,
  'sign.reason_needed': 422,
  'value.not_a_number': 422,
  'value.negative': 422,
  'value.wrong_kind': 422,
  'value.wrong_unit': 422,
  'value.too_large': 422,
  'value.bad_count': 422,
  'value.unknown_level': 422,
  'value.unknown_part': 422,
  'value.no_reference': 422,
  'map.wrong_length': 422,
  'map.no_such_port': 422,
  'map.port_twice': 422,
  'grid.beyond': 422,
  'school.unknown': 422,
  'link.label_taken': 409,
  'link.other_class': 409,
  'loss.bad_link': 422,
  'attempt.link_not_in_class': 422,
  'instrument.wrong_thing': 422,
  'instrument.days_crossed': 422,
  'instrument.in_use': 409,
  'instrument.no_answer': 502,
  'instrument.refused': 422,
  'method.state': 409,
  'time.not_an_instant': 422,
  'time.backwards': 422,
  'time.seconds_over_59': 422,
  'policy.out_of_range': 422,
  'policy.window_too_short': 422,
} as const satisfies Record<string, number>;

export type ErrorCode = keyof typeof ERRORS;

/** RFC 9457 problem details. `detail` is a sentence for a person; `code` and `params` are for programs. */
export interface Problem {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail: string;
  readonly code: ErrorCode;
  readonly params: Readonly<Record<string, string | number>>;
}

export const isErrorCode = (code: string): code is ErrorCode => Object.hasOwn(ERRORS, code);
