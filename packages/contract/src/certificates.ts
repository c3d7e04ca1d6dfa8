import { z } from 'zod';
import { Day, Id, Instant, Note, oneOf, SkillShape } from './common.ts';
import { ById, CLASS_ERRORS, route } from './route.ts';

export const CERTIFICATE_STATES = ['valid', 'amended', 'lapsed', 'withdrawn'] as const;
export type CertificateState = (typeof CERTIFICATE_STATES)[number];

/** A skill that was shown: by which rule, on which methods, until when. */
export const CertifiedSkill = z.object({
  skill: SkillShape,
  rule: z.string(),
  evidence: z.string(),
  lapsesOn: Day,
  methods: z.array(z.object({ title: z.string(), version: z.number().int() })),
});
export type CertifiedSkill = z.infer<typeof CertifiedSkill>;

export const Certificate = z.object({
  id: Id,
  /** What a reader types to see whether it still holds. */
  code: z.string(),
  traineeId: Id,
  traineeName: z.string(),
  className: z.string(),
  place: z.string(),
  skills: z.array(CertifiedSkill),
  issuedBy: z.string(),
  issuedAt: Instant,
  /** The last day on which all of it holds, in the class's zone. */
  validUntil: Day,
  state: oneOf(CERTIFICATE_STATES),
});
export type Certificate = z.infer<typeof Certificate>;

/** A code as it is typed: letters and digits, whatever stands between them. */
export const CertificateCode = z
  .string()
  .trim()
  .max(40)
  .transform((code) => code.toUpperCase().replace(/[^A-Z0-9]/g, ''))
  .pipe(z.string().length(12));

export const CERTIFICATE_ROUTES = {
  certificates: route('get /classes/:id/certificates', 'instructor', {
    params: ById,
    query: z.object({ trainee: Id.optional() }),
    reply: z.array(Certificate),
    errors: CLASS_ERRORS,
  }),
  /** Of the skills that a trainee is signed off in at present. */
  issueCertificate: route('post /classes/:id/certificates', 'lead', {
    params: ById,
    body: z.object({ id: Id, traineeId: Id, skills: z.array(SkillShape).min(1).max(40) }),
    reply: Certificate,
    errors: [...CLASS_ERRORS, 'not_found.person', 'certificate.not_signed_off', 'request.already_there'],
  }),
  withdrawCertificate: route('put /classes/:id/certificates/:certificateId', 'lead', {
    params: ById.extend({ certificateId: Id }),
    body: z.object({ reason: Note }),
    reply: Certificate,
    errors: [...CLASS_ERRORS, 'not_found.certificate'],
  }),
  ownCertificates: route('get /me/certificates', 'signed_in', { reply: z.array(Certificate) }),
  /** Whether a certificate holds, and nothing else. A wrong code and an unknown one are one answer. */
  verifyCertificate: route('post /verify', 'open', {
    body: z.object({ code: CertificateCode }),
    reply: z.object({ state: oneOf(CERTIFICATE_STATES) }),
    errors: ['not_found.certificate', 'auth.throttled'],
  }),
} as const;
