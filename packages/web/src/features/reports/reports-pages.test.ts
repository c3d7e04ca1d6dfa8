// @vitest-environment happy-dom
import { wilsonRate } from '@clear-mark/core';
import { type Certificate, type Results, ROUTES } from '@clear-mark/contract';
import { describe, expect, it } from 'vitest';
import { detail } from '../../../test/class-detail.ts';
import {
  CLASS,
  freshPages,
  holds,
  id,
  openPage,
  pressAnywhere,
  settled,
  shows,
  TestServer,
} from '../../../test/page.ts';
import CertificatesPanel from './CertificatesPanel.vue';
import ReportsPage from './ReportsPage.vue';
import { verifyAddress } from './reports.model.ts';
import VerifyPage from './VerifyPage.vue';

freshPages();

const summary = (k: number, n: number) => ({
  rate: wilsonRate(k, n),
  firstAttempt: wilsonRate(1, 2),
  void: 0,
  incomplete: 0,
  marginal: 0,
  firstPassAt: [],
  notYetPassed: 0,
});
const RESULTS: Results = {
  skills: [{ skill: 'cleave', summary: summary(11, 17) }],
  whole: summary(9, 17),
  losses: [],
  failures: [],
  standings: [
    {
      traineeId: id(11),
      traineeName: 'Torvin Hale',
      cells: [
        {
          skill: 'cleave',
          standing: 'competent',
          evidence: { code: 'standing.fails_in_a_row', params: { fails: 3, n: 17 } },
          window: 'PPP',
          rate: wilsonRate(11, 17),
          behind: null,
        },
      ],
    },
  ],
  signed: 17,
};
const CERTIFICATE: Certificate = {
  id: id(60),
  code: 'ABCD-EFGH-JK23',
  traineeId: id(11),
  traineeName: 'Torvin Hale',
  className: 'Pier crew 1',
  place: 'Old net loft',
  skills: [
    { skill: 'cleave', rule: '3 passes in a row', evidence: 'x', lapsesOn: '2027-03-03', methods: [] },
  ],
  issuedBy: 'Ruta Almqvist',
  issuedAt: '2026-03-03T09:00:00.000Z',
  validUntil: '2027-03-03',
  state: 'valid',
};
const DETAIL = detail({
  trainees: [{ id: id(11), name: 'Torvin Hale', login: 't-11', role: 'trainee', group: '' }],
});

describe('reports of a class', () => {
  const server = () =>
    new TestServer()
      .on(ROUTES.classDetail, DETAIL)
      .on(ROUTES.results, RESULTS)
      .on(ROUTES.attemptList, { total: 0, rows: [] })
      .on(ROUTES.certificates, [CERTIFICATE])
      .on(ROUTES.faces, []);
  const open = (at: string) => openPage(ReportsPage, { props: { classId: CLASS }, at, as: 'lead' });

  it('the class is read on the page by the same numbers as in Insight', async () => {
    const asked = server();
    const { page } = await open('/reports');
    await shows(page, '11 of 17, 65 % (41 to 83)');
    expect(page.text()).toContain('17 signed attempts.');
    expect(asked.of(ROUTES.results)[0]!.query.get('trainee')).toBeNull();
    expect(page.find('[data-test=certificates]').exists()).toBe(false);
  });
  it('a trainee is asked for alone, with certificates beside the record', async () => {
    const asked = server();
    const { page } = await open(`/reports?of=${id(11)}`);
    await shows(page, 'Record of Torvin Hale');
    expect(asked.of(ROUTES.results)[0]!.query.get('trainee')).toBe(id(11));
    expect(page.get('[data-test=certificates]').text()).toContain('ABCD-EFGH-JK23');
  });
  it('what cannot be read is told', async () => {
    server().refuse(ROUTES.results, 403, 'auth.not_in_class', 'You are not in this class.');
    const { page } = await open('/reports');
    await shows(page, 'You are not in this class.');
  });
});

describe('certificates', () => {
  const open = (as: 'lead' | 'instructor', certificates: readonly Certificate[] = [CERTIFICATE]) =>
    openPage(CertificatesPanel, {
      props: { detail: DETAIL, traineeId: id(11), certificates, skills: ['cleave'], paper: 'A4' },
      as,
    });
  it('are withdrawn with a reason alone, and by a lead', async () => {
    const server = new TestServer().on(ROUTES.withdrawCertificate, { ...CERTIFICATE, state: 'withdrawn' });
    const { page, press } = await open('lead');
    await press('Withdraw: Cleaving');
    await pressAnywhere('Withdraw it');
    expect(server.of(ROUTES.withdrawCertificate)).toEqual([]);
    const field = document.querySelector<HTMLInputElement>('#withdraw-reason')!;
    field.value = 'Issued by mistake';
    field.dispatchEvent(new Event('input'));
    await settled();
    await pressAnywhere('Withdraw it');
    await holds(() =>
      expect(server.of(ROUTES.withdrawCertificate)[0]!.body).toEqual({ reason: 'Issued by mistake' }),
    );
    expect(page.emitted('changed')).toHaveLength(1);
  });
  it('an instructor reads them, and issues and withdraws none', async () => {
    const { page } = await open('instructor');
    expect(page.text()).toContain('It holds');
    expect(page.text()).not.toMatch(/Withdraw|Issue a certificate/);
  });
  it('one of a skill that is not signed off is refused in words', async () => {
    new TestServer().refuse(ROUTES.issueCertificate, 409, 'certificate.not_signed_off', 'Sign off first.');
    const { page, press } = await open('lead', []);
    page.getComponent({ name: 'ElSelect' }).vm.$emit('update:modelValue', ['cleave']);
    await settled();
    await press('Issue a certificate');
    await shows(page, 'Sign off first.');
  });
  it('have an address that says nothing but the code', () =>
    expect(verifyAddress('https://school.example', CERTIFICATE.code)).toBe(
      'https://school.example/verify/ABCD-EFGH-JK23',
    ));
});

describe('the page that anybody may open', () => {
  it.each([
    ['valid', 'It holds'],
    ['amended', 'Amended'],
    ['lapsed', 'Lapsed'],
    ['withdrawn', 'Withdrawn'],
  ])('says %s', async (state, words) => {
    const server = new TestServer().on(ROUTES.verifyCertificate, { state });
    const { page } = await openPage(VerifyPage, { props: { code: CERTIFICATE.code }, as: null });
    await shows(page, words);
    expect(server.of(ROUTES.verifyCertificate)[0]!.body).toEqual({ code: 'ABCDEFGHJK23' });
    expect(page.text()).not.toContain('Torvin');
  });
  it('a code that is none is told under the field, one of a wrong shape is not sent', async () => {
    const server = new TestServer().refuse(
      ROUTES.verifyCertificate,
      404,
      'not_found.certificate',
      'There is no certificate under this code.',
    );
    const { page, type, press } = await openPage(VerifyPage, { as: null });
    await type('input[name=code]', 'ABC');
    await press('Check it');
    expect(server.of(ROUTES.verifyCertificate)).toEqual([]);
    await type('input[name=code]', 'QQQQ QQQQ QQQQ');
    await press('Check it');
    await shows(page, 'There is no certificate under this code.');
  });
});
