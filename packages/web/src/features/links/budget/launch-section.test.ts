// @vitest-environment happy-dom
import { DEFAULT_LOSS_SETTINGS, type LinkPlan } from '@clear-mark/core';
import { mount } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import LaunchSection from './LaunchSection.vue';

const plan = (fiberClass: LinkPlan['fiberClass']): LinkPlan => ({
  fiberClass,
  fibers: 1,
  ends: ['panel', 'panel'],
  segments: [{ kind: 'cable', lengthM: 100, polish: 'flat' }],
  joints: [],
});
const shown = (fiberClass: LinkPlan['fiberClass'], launch?: typeof DEFAULT_LOSS_SETTINGS.launch) =>
  mount(LaunchSection, { props: { plan: plan(fiberClass), settings: { ...DEFAULT_LOSS_SETTINGS, launch } } });

describe('the launch cord of a link', () => {
  it('has the mandrel of its core', () => {
    expect(shown('OM3').text()).toContain('on a mandrel of 22 mm');
    expect(shown('OM1').text()).toContain('on a mandrel of 17 mm');
  });
  it('says what defeats the mandrel', () => {
    const words = shown('OM4', { jacketMm: 2, bendInsensitive: true, tenGigabit: true }).text();
    expect(words).toContain('mandrel of 23 mm');
    expect(words).toContain('A bend-insensitive cord defeats the mandrel');
    expect(words).toContain('encircled-flux');
    expect(words).toContain('holds only with a mode-controlled cord here');
  });
  it('hands over one change with the rest as it was', async () => {
    const section = shown('OM3', { jacketMm: 2, bendInsensitive: false, tenGigabit: false });
    await section.findAll('input[type=checkbox]')[1]!.setValue(true);
    expect(section.emitted('settings')).toEqual([
      [{ launch: { jacketMm: 2, bendInsensitive: false, tenGigabit: true } }],
    ]);
  });
});
