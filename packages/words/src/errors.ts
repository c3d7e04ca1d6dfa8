import type { BlockFault, Material } from '@clear-mark/core';
import type { ErrorCode } from '@clear-mark/contract';
import { MATERIAL_WORDS } from './names.ts';
import { BLOCK_FAULT_WORDS } from './trace-faults.ts';
import { type Params, say } from './params.ts';

const ERROR_WORDS: Readonly<Record<ErrorCode, (p: Params) => string>> = {
  'request.malformed': () => 'The request could not be read. Nothing was changed.',
  'request.bad_field': (p) => `${say(p, 'field')}: ${say(p, 'problem')}. Nothing was changed.`,
  'request.too_large': (p) =>
    `That is more than ${say(p, 'kilobytes')} kB at once. Send less at a time; nothing was changed.`,
  'request.wrong_origin': () => 'The request came from another site and was refused.',
  'school.closed': () =>
    'This school is closed for a moment, as while its data are moved. What you entered is kept on this device and sent when it is open again.',
  'request.wrong_host': () =>
    'This server does not answer under that name. Open it by the address that it printed when it started.',
  'request.other_site': () => 'The request came from another site and was refused.',

  'request.already_there': () => 'This exists already with other content. Nothing was changed.',
  'request.names_nothing': () => 'The request names something that is not there. Nothing was changed.',
  'request.not_storable': () =>
    'Part of this cannot be kept: a sign that is no text, or a number or a date out of range. Nothing was changed.',
  'request.unknown_route': () => 'There is nothing at this address.',
  'server.failed': () => 'Something went wrong on the server. Your entries are kept; try again.',
  'server.unavailable': () => 'The database does not answer. Your entries are kept on this device.',
  'server.busy': () => 'The database took too long and gave up. Nothing was changed; try again.',
  'server.stopping': () => 'The server is being stopped. Your entries are kept; try again in a moment.',
  'server.disk_full': () =>
    'The disk of the server is full. Your entries are kept on this device; tell whoever runs the server.',
  'auth.required': () => 'You are not signed in. Entries on this device are kept; sign in to send them.',
  'auth.bad_credentials': () => 'Name and password do not match.',
  'auth.throttled': () => 'Too many tries. Wait before the next one: each wrong try makes the wait longer.',
  'auth.role': (p) => `This needs the role ${say(p, 'needed')}. Ask the lead.`,
  'auth.not_in_class': () => 'You are not in this class. Ask its lead to add you.',
  'auth.demo_only': () => 'One-tap entry exists in the demo on this machine only.',
  'auth.bad_setup_code': () => 'That is not the code printed when the server started.',
  'auth.setup_done': () => 'The lead’s account exists already. Sign in instead.',
  'auth.weak_password': (p) => `The password needs at least ${say(p, 'least')} characters.`,
  'auth.common_password': () => 'This password is on the lists that are tried first. Choose other words.',
  'auth.own_name_password': () => 'The password holds the person’s own name. Choose other words.',
  'person.login_taken': (p) => `The sign-in name ${say(p, 'login')} is taken.`,
  'auth.second_factor_needed': () => 'This account asks for the code of its authenticator as well.',
  'auth.bad_second_factor': () => 'That code is wrong or has been used. Take the next one that is shown.',
  'auth.second_factor_first': () => 'This account needs a second factor first: set it up under Your account.',
  'account.bad_code': () =>
    'This code does not hold. It may have been used, replaced or run out: ask the lead for a new one.',
  'mail.not_set_up': () => 'This school has no mail server set up. Hand the code on yourself.',
  'mail.refused': (p) =>
    `The mail was not taken: ${say(p, 'answer')}. The code holds; hand it on yourself, or try again.`,
  'account.login_needed': () => 'Choose a sign-in name.',
  'account.disabled': () => 'This account is closed. Open it again first.',
  'account.erased': () => 'This person was erased. What is left is not an account any more.',
  'account.lead_no_pin': () => 'A lead has no PIN: leads sign in by their password.',
  'auth.bad_pin': () => 'That is not the PIN.',
  'auth.weak_pin': () =>
    'Everybody tries this PIN first. Take digits that are not all the same and do not count up or down.',
  'bench.none': () => 'This device is no bench device any more. Sign in with your password.',
  'report.batch_running': () => 'Your reports of this class are being made already. Wait, or cancel them.',
  'auth.bad_token': () => 'This token does not hold: it is unknown, has ended or was withdrawn.',
  'auth.token_rights': (p) => `This token was not given the right “${say(p, 'right')}”.`,
  'auth.by_pin': () => 'Sign in with your password for this: a PIN is not enough.',
  'not_found.token': () => 'There is no such token.',
  'receiver.address_refused': () =>
    'This address is not taken: it begins with https, and has no name and no password in it.',
  'not_found.receiver': () => 'There is no such receiver.',
  'account.own': () => 'Nobody erases themselves. Ask another lead.',
  'account.other_name': () => 'The name that was typed is not the name of this account. Nothing was changed.',
  'account.last_lead': () => 'This is the last lead who can sign in. Make somebody else a lead first.',
  'account.role_in_class': (p) =>
    `${say(p, 'name')} is ${say(p, 'role')} of a class. Take the person out of it first.`,
  'account.no_secret': () => 'The set-up of the second factor has run out. Begin it again.',
  'account.no_second_factor': () => 'Set up your own second factor first, so that you are not shut out.',
  'account.second_factor_required': () => 'Leads need a second factor in this school.',
  'not_found.certificate': () => 'There is no certificate under this code.',
  'certificate.not_signed_off': (p) =>
    `The trainee is not signed off in ${say(p, 'skill')} at present. Sign off first.`,
  'attempt.not_signed': () => 'This piece is not signed: change it on its sheet.',
  'amend.moved': () =>
    'The record was amended, or something else came for it, since it was opened. Open it again: nothing was changed.',
  'amend.nothing': () => 'Nothing is changed by this amendment.',
  'class.open_attempts': (p) =>
    `${say(p, 'name')} has open pieces in this class: ${say(p, 'pieces')}. Sign or withdraw them first.`,
  'class.last_instructor': () => 'This is the last instructor of the class. Add another one first.',
  'not_found.class': () => 'There is no such class.',
  'not_found.person': () => 'There is no such person.',
  'not_found.attempt': () => 'There is no such attempt.',
  'not_found.method': () => 'There is no such method in use in this class.',
  'not_found.method_version': () => 'There is no such method version.',
  'not_found.thing': () => 'There is no such bench, tool or lot in this class.',
  'not_found.reference': () => 'There is no such reference in this class.',
  'not_found.instrument': () => 'No instrument is connected here. Connect it in Class first.',
  'not_found.face': () => 'There is no such picture in this class.',
  'not_found.series': () => 'There is no such series of faces.',
  'not_found.run': () => 'There is no such run of calls of yours.',
  'face.bad_review': () =>
    'The review names a feature that is not there, a size that is none, or a verdict without a reason. Nothing was changed.',
  'picture.store_away': () =>
    'The store that keeps the pictures does not answer. Nothing was lost; try again in a minute.',
  'picture.store_lost': () =>
    'The store that keeps the pictures does not have this one as it was sent. Tell whoever keeps the server.',
  'face.no_picture': () => 'The picture itself did not arrive. Send it again; nothing was kept.',
  'face.not_a_picture': () => 'That is neither a PNG nor a JPEG picture. Nothing was kept.',
  'face.bad_picture': () =>
    'The picture is broken: it says no size, or its data end too soon. Nothing was kept.',
  'face.size_missing': () => 'The request does not say how large the picture is. Nothing was kept.',
  'face.too_many': () =>
    'Too many pictures were sent in the last hour. Wait, then send the next; nothing was kept.',
  'face.too_large': (p) =>
    `The picture is larger than ${say(p, 'megabytes')} MB or ${say(p, 'megapixels')} million pixels. Nothing was kept.`,
  'face.wrong_size': () => 'The picture has another width or height than was said. Nothing was kept.',
  'face.other_content': () => 'This picture was graded already, with another result. Nothing was changed.',
  'face.other_digest': () => 'The picture changed on its way. Send it again; nothing was kept.',
  'face.attempt_not_in_class': () => 'That attempt is not in this class. The picture was not kept.',
  'face.attempt_signed': () =>
    'That attempt is signed and takes no more pictures. Keep this one by itself; nothing was changed.',
  'series.not_graded': (p) =>
    `${say(p, 'count')} of the pictures have no verdict. Grade them first; nothing was set.`,
  'series.one_sided': () => 'A series needs good faces and bad ones, two of each at least. Nothing was set.',
  'series.finished': () => 'This series is finished. The call was not taken.',
  'series.other_answer': () => 'This face was called already; the first call stands.',
  'series.no_such_trace': () => 'The series has no such trace.',
  'series.one_sided_traces': () =>
    'A series needs traces that pass and traces that fail, one of each at least. Nothing was set.',
  'not_found.link': () => 'There is no such link in this class.',
  'not_found.trace': () => 'There is no such trace in this class.',
  'not_found.trace_series': () => 'There is no such series of traces.',
  'trace.attempt_signed': () => 'That piece is signed. The trace was not kept with it.',
  'trace.too_many': () => 'That is more traces than one person may send in an hour. Nothing was kept.',
  'trace.no_otdr': () => 'What answers there gave no trace. Nothing was kept.',
  'trace.size_missing': () => 'The request does not say how large the trace file is. Nothing was kept.',
  'trace.other_content': () =>
    'A trace is kept under this id already, with another file. Nothing was changed.',
  'series.no_such_face': () => 'The series has no such face.',
  'class.bad_time_zone': (p) => `${say(p, 'timeZone')} is not a time zone name such as Europe/Lisbon.`,
  'class.dates_crossed': () => 'The class ends before it starts.',
  'class.already_member': (p) => `${say(p, 'name')} is in this class already.`,
  'class.wrong_role': (p) =>
    `${say(p, 'name')} has the role ${say(p, 'role')} and cannot be added as ${say(p, 'wanted')}.`,
  'thing.label_taken': (p) => `${say(p, 'label')} exists already in this class.`,
  'attempt.trainee_not_in_class': () => 'That trainee is not in this class. Nothing was started.',
  'attempt.method_not_in_use': () => 'That method is not in use in this class. Nothing was started.',
  'attempt.thing_not_in_class': () => 'One piece of the equipment is not in this class. Nothing was started.',
  'attempt.other_content': () => 'An attempt with this number exists already with other content.',
  'attempt.signed': () => 'This attempt is signed. Your entry is kept beside it for an amendment.',
  'attempt.withdrawn': () => 'This attempt was withdrawn. It takes nothing any more.',
  'attempt.not_empty': () => 'This attempt has entries, so it is not withdrawn. Sign it as void instead.',
  'attempt.full': (p) =>
    `This attempt holds ${say(p, 'most')} entries, the most that one takes. Start another piece.`,
  'attempt.too_many_open': (p) =>
    `${say(p, 'most')} attempts of this trainee are open. Sign or withdraw some first; nothing was started.`,
  'attempt.too_many_starts': () =>
    'Too many pieces were started in the last minute. Wait, then start the next.',
  'entry.source': (p) => `An entry with the source ${say(p, 'source')} is made by the server alone.`,
  'entry.unknown_reading': () =>
    'The server did not give out this reading of the instrument in this form. Take it again, or type what it shows.',
  'entry.reading_not_claimed': () =>
    'The instrument was not this sheet’s when the reading was taken. Take it for this sheet, then read again.',
  'entry.time': () =>
    'A time in this entry lies before the class began, or in the future. Set the clock of the device.',
  'entry.confirm_own': () => 'Only the author can stand by an entry that another person handed in.',
  'entry.unknown_criterion': (p) => `The method has no criterion ${say(p, 'criterion')}.`,
  'entry.not_author': () => 'These entries belong to another person, who has to sign in to send them.',
  'entry.author_left': (p) =>
    `${say(p, 'name')} is not in this class any more; the entry is kept on this device.`,
  'entry.capacity': (p) => `A ${say(p, 'role')} cannot enter as ${say(p, 'capacity')}.`,
  'entry.other_content': () => 'An entry with this number exists already with other content.',
  'entry.unknown_target': () => 'The entry to take back is not part of this attempt.',
  'entry.value_missing': () => 'The entry carries no value.',
  'entry.reference_missing': () => 'The reading names a reference that this class does not have.',
  'reference.not_instrument': () => 'A reference belongs to an instrument of this class.',
  'sign.entries_differ': () => 'Entries arrived that you had not seen. Look at the sheet again, then sign.',
  'sign.conflict': (p) =>
    `Scored twice without knowledge of each other: choose one for ${say(p, 'count')} of the criteria, then sign.`,
  'sign.reason_needed': () => 'An incomplete or void attempt is signed only with a reason.',
  'value.not_a_number': (p) => `“${say(p, 'text')}” is not a number. Digits with one point or comma.`,
  'value.negative': (p) => `${say(p, 'text')} is negative; this cannot be.`,
  'value.worked_out': () => 'This value is worked out from the readings of the row; it is not typed.',
  'value.wrong_kind': (p) => `This criterion takes a ${say(p, 'wanted')}, not a ${say(p, 'given')}.`,
  'value.wrong_unit': (p) => `${say(p, 'given')} does not fit; the unit here is ${say(p, 'wanted')}.`,
  'value.too_large': (p) => `${say(p, 'text')} is too large to be true.`,
  'value.bad_count': (p) => `A count is a whole number from 0 to ${say(p, 'most')}.`,
  'value.unknown_level': (p) => `The scale has no level ${say(p, 'given')}.`,
  'value.unknown_part': (p) => `This criterion has no reading for “${say(p, 'given')}”.`,
  'value.no_reference': () => 'A call needs what is right beside it: good or bad.',
  'map.wrong_length': (p) => `A map of ${say(p, 'ports')} ports, and ${say(p, 'given')} came.`,
  'map.no_such_port': (p) =>
    `There is no port ${say(p, 'given')}; they are 1 to ${say(p, 'ports')}, 0 for no light.`,
  'map.port_twice': (p) =>
    `Far port ${say(p, 'port')} cannot light for both ${say(p, 'first')} and ${say(p, 'second')}. Walk one of them again.`,
  'grid.beyond': (p) =>
    `Beyond the ${say(p, 'rows')} rows and ${say(p, 'columns')} columns of this grid: not taken.`,
  'practice.unknown': (p) =>
    `There is no choice “${say(p, 'practice')}: ${say(p, 'given')}”. Nothing was changed.`,
  'link.label_taken': (p) => `There is a link called ${say(p, 'label')} in this class already.`,
  'link.other_class': () => 'That link belongs to another class.',
  'loss.bad_level': (p) =>
    `${say(p, 'text')} dBm is no level that a meter shows: from ${say(p, 'least')} to ${say(p, 'most')} dBm. Look at the sign and the point.`,
  'loss.bad_link': () => 'The link as described has no limit yet. Open it in Links and complete it.',
  'attempt.link_not_in_class': () => 'That link is not one of this class. Nothing was started.',
  'instrument.wrong_thing': (p) => `A ${say(p, 'given')} cannot be connected as this kind of instrument.`,
  'instrument.days_crossed': () => 'The calibration runs out before it was done.',
  'cord.wrong_thing': (p) => `${say(p, 'label')} is no test cord: only cords have checks.`,
  'cord.days_crossed': () => 'The check runs out before it was made.',
  'cord.bad_loss': (p) => `“${say(p, 'text')}” is no loss of a test cord: at most ${say(p, 'most')} dB.`,
  'instrument.not_claimed': () => 'This sheet does not have the instrument. Take it for this sheet first.',
  'instrument.address_refused': () =>
    'Instruments may be on this machine, or in the networks that the server was started with (--instruments). Nothing was set.',
  'instrument.in_use': (p) =>
    `${say(p, 'person')} takes its readings for ${say(p, 'piece')}. Take it over, or wait until it is free.`,
  'instrument.no_answer': () => 'The instrument does not answer. Look at its cable and its power.',
  'instrument.refused': (p) => `The instrument refused that: ${say(p, 'problem')}.`,
  'method.not_complete': (p) =>
    `The draft is not complete yet: ${say(p, 'count')} left. Nothing was published.`,
  'method.shipped': () => 'A shipped method is not changed. Copy it, and change the copy.',
  'method.draft_moved': () => 'Somebody else saved this draft meanwhile. Load it again; nothing was changed.',
  'method.draft_closed': () => 'This draft was published or discarded and takes no changes any more.',
  'method.too_many_drafts': (p) =>
    `There are ${say(p, 'most')} drafts already. Publish or discard some; nothing was started.`,
  'pack.not_one': () => 'This file is no method pack of Clear Mark. Nothing was taken.',
  'pack.other_schema': (p) =>
    `This pack has the schema version ${say(p, 'given')}; here it is ${say(p, 'wanted')}. Nothing was taken.`,
  'pack.bad_field': (p) => `${say(p, 'field')}: ${say(p, 'problem')}. Nothing was taken.`,
  'pack.markup': (p) => `${say(p, 'field')}: there is markup in a text. Nothing was taken.`,
  'pack.digest': () =>
    'The file is not as it was written: its digest does not fit. Have it sent again; nothing was taken.',
  'pack.repeated': (p) => `${say(p, 'name')} is in the pack twice. Nothing was taken.`,
  'pack.not_sound': (p) => `${say(p, 'name')}: ${say(p, 'problem')} Nothing was taken.`,
  'pack.changed_version': (p) =>
    `${say(p, 'name')} is here already with other content. A published version never changes, so nothing was taken.`,
  'archive.not_one': () =>
    'This file is no class archive of Clear Mark, or it was cut off. Nothing was taken.',
  'archive.other_schema': (p) =>
    `This archive has the schema version ${say(p, 'given')}; here it is ${say(p, 'wanted')}. Nothing was taken.`,
  'archive.bad_name': (p) => `No archive has a file named “${say(p, 'name')}”. Nothing was taken.`,
  'archive.too_large': () => 'This archive would be unpacked to more than is taken. Nothing was taken.',
  'archive.incomplete': (p) =>
    `${say(p, 'name')} is missing, or is not named by the archive. Nothing was taken.`,
  'archive.digest': (p) =>
    `${say(p, 'name')} is not as it was written: its digest does not fit. Have the archive sent again; nothing was taken.`,
  'archive.bad_line': (p) =>
    `${say(p, 'name')}, line ${say(p, 'line')}, ${say(p, 'field')}: ${say(p, 'problem')}. Nothing was taken.`,
  'archive.broken': (p) =>
    `${say(p, 'name')}: a line refers to something that is not in the archive, or does not fit it. Nothing was taken.`,
  'archive.not_sound': (p) =>
    `The chain of signed records does not hold at ${say(p, 'count')} places. Nothing was taken.`,
  'archive.other_content': (p) =>
    `${say(p, 'name')}: something of this archive is here already with other content. Nothing was taken.`,
  'archive.erased_here': (p) =>
    `${say(p, 'name')} was erased here, and is in the archive as before. Nothing was taken.`,
  'not_found.school_table': () => 'There is no such table of the school.',
  'school_table.moved': () =>
    'Somebody else saved a version of this meanwhile. Load it again and look at theirs first; nothing was changed.',
  'school_table.other_kind': () => 'A table stays of its kind. Begin a new one; nothing was changed.',
  'not_found.method_draft': () => 'That draft is not there.',
  'method.state': (p) => `A version that is ${say(p, 'given')} cannot become ${say(p, 'wanted')}.`,
  'time.not_an_instant': () => 'That is not a time.',
  'time.backwards': () => 'It stops before it started.',
  'time.seconds_over_59': (p) => `${say(p, 'text')} has more than 59 seconds after the colon.`,
  'policy.out_of_range': (p) =>
    `${POLICY_FIELDS[say(p, 'field')] ?? say(p, 'field')} has to be a whole number from ${say(p, 'least')} to ${say(p, 'most')}.`,
  'policy.rate_out_of_range': (p) =>
    `${POLICY_FIELDS[say(p, 'field')] ?? say(p, 'field')} has to lie over ${say(p, 'least')} and under ${say(p, 'most')}.`,
  'policy.window_too_short': () => 'The window is shorter than the run it has to show.',
  'policy.share_crossed': (p) =>
    `${say(p, 'sharePasses')} passes among the last ${say(p, 'shareOf')} outcomes cannot be: ask for fewer, or look at more.`,
  'policy.rates_crossed': (p) =>
    `The failure rate of a good trainee (${say(p, 'pGood')}) must be under that of one who is not ready (${say(p, 'pBad')}): otherwise the chart has nothing to tell apart.`,
  'sign_off.not_shown': () =>
    'The policy’s rule does not show competence here, so there is nothing to sign off. Nothing was signed.',
  'not_found.plan_item': () => 'That part of the plan is not there any more. Load the plan again.',
  'what_if.too_many': () =>
    'Another “what if” is still being worked out for this class. Wait for it or cancel it.',
  'what_if.bad_limit': () =>
    'That cannot be a limit: the lower end is above the upper, or it is not a number.',
  'what_if.bad_pass_mark': () => 'A pass mark is from 0 to 100 percent of the possible points.',
  'not_found.job': () => 'That calculation is not there any more. Start it again.',
  'agreement.bad_table': () =>
    'This is no table of agreement: whole counts, the same categories and raters in every row.',
  'agreement.bad_weight': () => 'A weight of agreement has to be a number above 0.',
  'competence.unknown_mark': () => 'An outcome has a mark that nobody knows. Nothing was computed.',
  'components.no_source': () => 'Name at least one column to group by.',
  'face.bad_division': () =>
    'The lines of a slide lie more than nothing apart: give their distance in micrometres.',
  'face.bad_image': () => 'The picture has no pixels that could be measured.',
  'loss.bad_uncertainty': () => 'A component of the uncertainty has to be 0 dB or more.',
  'loss.no_coefficient': (p) =>
    `There is no coefficient for ${say(p, 'wavelengthNm')} nm in ${say(p, 'fiberClass')} fiber. Choose a wavelength of its table.`,
  'loss.no_power': () => 'A power has to be above 0 to have a level in dBm.',
  'trace.no_trace_file': () => 'This is no trace file of an OTDR (SOR).',
  'trace.other_length': (p) =>
    `The two traces do not show one fiber: its end lies at ${say(p, 'a')} m from one side and at ${say(p, 'b')} m from the other (0: not seen).`,
  'trace.bad_field': (p) => `The field ${say(p, 'field')} of the trace is missing or not as it should be.`,
  'trace.bad_line': (p) => `Line ${say(p, 'line')} of the trace is not a position and a level.`,
  'trace.too_large': (p) =>
    `The file has ${say(p, 'megabytes')} MB; a trace file has at most ${say(p, 'most')} MB.`,
  'trace.checksum': (p) =>
    `The file was changed or damaged: its checksum says ${say(p, 'said')}, its bytes make ${say(p, 'found')}.`,
  'trace.bad_block': (p) =>
    `The block ${say(p, 'block')} of the trace file ${BLOCK_FAULT_WORDS[say(p, 'why') as BlockFault] ?? 'cannot be read'}.`,
  'trace.bad_value': (p) => `${say(p, 'value')} does not fit into its field of a trace file.`,
  'map.bad_ports': () => 'A map of ports needs at least two ports, each lit by one or dark.',
  'map.lengths_differ': () => 'Two maps that are compared have to have as many ports.',
  'metrology.bad_contribution': () =>
    'A contribution to the uncertainty needs a half-width of 0 or more and degrees of freedom above 0.',
  'metrology.bad_limit': () => 'The limit has to be a number.',
  'metrology.bad_uncertainty': () =>
    'Reading, limits and uncertainty have to be numbers, the lower limit not above the upper, and the uncertainty not under 0.',
  'card.too_long': (p) =>
    `The lengths of this method do not fit a card for the camera: the longest may be ${p['longest']} mm.`,
  'physics.out_of_domain': (p) =>
    `${say(p, 'name')} is outside of what the formula holds for. Nothing was computed.`,
  'practice.misfit': () => 'The chosen way of working does not fit this method.',
  'sequential.bad_limit': () => 'The limit of the chart has to be above 0.',
  'sequential.bad_outcome': () => 'An outcome is 1 for a failure and 0 for a pass.',
  'sequential.bad_rates': () =>
    'The acceptable failure rate has to lie under the unacceptable one, both between 0 and 1.',
  'sequential.bad_risks': () => 'Both risks have to be above 0 and together under 1.',
  'sequential.bad_share': () => 'A failure rate lies from 0 to 1.',
  'sheet.less_target': () =>
    'A length on this sheet is to be compared with one that is not there, or that has another unit.',
  'sheet.range_target': () =>
    'A range on this sheet names a loss that is not there, or that has a single fiber.',
  'sheet.bad_number': () => 'A limit here is not a number. Digits with one point.',
  'sheet.caution_missing': (p) =>
    `No caution speaks of ${MATERIAL_WORDS[say(p, 'material') as Material] ?? say(p, 'material')}, which the steps use.`,
  'sheet.empty_step': () => 'Nothing is scored in this step: add a criterion, or remove the step.',
  'sheet.no_caution': () => 'Say at least one caution, each with words of its own.',
  'sheet.no_source': () => 'Say where each figure comes from.',
  'sheet.no_words': () => 'A name or a text is empty.',
  'sheet.nothing_required': () => 'At least one criterion with points has to be required of every piece.',
  'sheet.pass_mark': () => 'The pass mark is from 1 to 100 percent of the possible points.',
  'versions.edited_twice': (p) =>
    `Somebody else changed the same meanwhile (${say(p, 'what')}). Yours was not saved: load theirs, then make your change again.`,
  'sheet.call_target': () => 'A call on this sheet names a criterion that it cannot be about.',
  'sheet.conditioned_by': () => 'A condition of this sheet names a criterion that is not there.',
  'sheet.crossed_band': () => 'The lower limit of a criterion lies above its upper one.',
  'sheet.empty': () => 'A sheet needs at least one step with one criterion.',
  'sheet.fibers': () => 'The fibers of a criterion do not fit its connector.',
  'sheet.no_limit': () => 'A measured criterion needs a limit.',
  'sheet.no_wavelength': () => 'A loss criterion needs a wavelength.',
  'sheet.points': () => 'The points of a criterion have to be whole and 0 or more.',
  'sheet.ports': () => 'The ports of a map do not fit its trunk.',
  'sheet.repeated_criterion': () => 'Two criteria of this sheet have the same id.',
  'sheet.repeated_step': () => 'Two steps of this sheet have the same id.',
  'sheet.scale': () => 'A described scale needs levels that differ, the best first.',
  'sheet.practice_same': () => 'A practice option needs two choices, and one that changes something.',
  'sheet.practice_words': () => 'A practice option needs a question, a reason and a name for each choice.',
  'sheet.practice': () => 'A way of working on this sheet names something that is not there.',
  'stats.bad_beta': () => 'The beta distribution needs shapes above 0 and a place from 0 to 1.',
  'stats.bad_binomial': () => 'The binomial distribution needs whole counts and a chance from 0 to 1.',
  'stats.bad_count': () => 'Counts have to be whole, 0 or more, and no part larger than the whole.',
  'stats.bad_freedom': () => 'Degrees of freedom have to be 1 or more.',
  'stats.bad_gamma': () => 'The gamma distribution needs a shape above 0 and a place of 0 or more.',
  'stats.bad_outcome': () => 'An outcome is 0 or 1.',
  'stats.bad_probability': () => 'A probability lies between 0 and 1, without its ends.',
  'stats.bad_sample_size': (p) => `The size of the sample has to be from 2 to ${say(p, 'most')}.`,
  'stats.bad_sigma': () => 'A standard deviation has to be 0 or more.',
  'stats.bad_weight': () => 'A weight has to be 0 or more.',
  'stats.bad_width': () => 'The width of a class of the histogram has to be above 0.',
  'stats.empty': () => 'There are no values to compute from.',
  'stats.no_convergence': () => 'The computation did not settle. Nothing was computed.',
  'stats.no_root': () => 'The value that was looked for lies outside of the range. Nothing was computed.',
  'stock.not_counted': (p) =>
    `${say(p, 'label')} is not counted: give it a number of uses first. Nothing was changed.`,
  'measured.other_value': (p) =>
    `The picture gives ${say(p, 'value')}, and not what was sent. Nothing was kept.`,
  'entry.unknown_picture': () =>
    'The value names a picture that is not kept with this piece, or another value of it. It was not taken.',
  'stock.item_there': (p) =>
    `There is a stock item named ${say(p, 'label')} already, with other figures or of the shipped ones. Nothing was changed.`,
  'course.no_such_step': (p) => `The method has no step ${say(p, 'step')}. Nothing was changed.`,
  'stock.no_such_item': (p) => `There is no stock item ${say(p, 'item')}. Nothing was changed.`,
  'day.changed_meanwhile': () =>
    'Somebody else changed this day meanwhile. Yours was not saved: look at the day as it is now, and change it again.',
  'day.not_whole': (p) =>
    `This plan does not fit its pieces (${say(p, 'problem')}), so it was not saved. Make the plan again.`,
  'day.outside_class': (p) =>
    `${say(p, 'day')} is not a day of this class, which runs from ${say(p, 'from')} to ${say(p, 'to')}. Nothing was saved.`,
  'not_found.day': () => 'There is no plan of that day.',
  'not_found.load': () => 'There is no such load in the ovens.',
  'stock.bad_counts': (p) => `${say(p, 'value')} is no number of pieces. Nothing was computed.`,
  'stock.bad_share': (p) =>
    `A share between 0 and 1 is needed, not ${say(p, 'share')}. Nothing was computed.`,
  'stats.not_finite': () => 'A value is no number. Nothing was computed.',
  'stats.not_paired': (p) =>
    `The two columns have ${say(p, 'first')} and ${say(p, 'second')} values: as many are needed.`,
  'what_if.no_sheet': () => 'An attempt has no sheet that it could be scored by again.',
};

/** Fields of the policy. */
const POLICY_FIELDS: Readonly<Record<string, string>> = {
  passesInARow: 'Passes in a row',
  failsInARow: 'Fails in a row',
  retrainAfter: 'Not before this many outcomes',
  marginalInARow: 'Marginal passes in a row',
  currencyMonths: 'Months without a pass',
  window: 'Outcomes that the recent view looks at',
  sharePasses: 'Passes wanted among the last outcomes',
  shareOf: 'Last outcomes looked at',
  pGood: 'Failure rate of a good trainee',
  pBad: 'Failure rate of one who is not ready',
  falseSignalAfter: 'Pieces to a false signal',
};

/** The sentence for an error code. */
export function errorWords(code: ErrorCode, params: Params = {}): string {
  return ERROR_WORDS[code](params);
}
