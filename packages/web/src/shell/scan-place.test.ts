import { codeFor } from '@clear-mark/paper';
import { describe, expect, it } from 'vitest';
import { detail } from '../../test/class-detail.ts';
import { placeOfScan, type ScannedPiece } from './scan-place.ts';

const room = detail();
const [thing] = room.things;
const [trainee] = room.trainees;
const [method] = room.methods;
const piece = (more: Partial<ScannedPiece> = {}): ScannedPiece => ({
  attemptId: 'a-1',
  pieceLabel: 'MS-07',
  traineeId: trainee!.id,
  isOpen: true,
  ...more,
});
const params = { classId: room.id };

describe('where a scan leads', () => {
  it('a piece’s own label to its sheet, in whatever case', () => {
    expect(placeOfScan(' ms-07 ', room, [piece()])).toEqual({
      name: 'sheet',
      params: { ...params, attemptId: 'a-1' },
    });
    expect(placeOfScan('MS-08', room, [piece()])).toBeNull();
  });

  it('the code of a piece to its sheet; of one that is not begun to Today', () => {
    const code = codeFor('piece', trainee!.id, 'MS-07');
    expect(placeOfScan(code, room, [piece()])).toEqual({
      name: 'sheet',
      params: { ...params, attemptId: 'a-1' },
    });
    expect(placeOfScan(codeFor('piece', trainee!.id, 'MS-08'), room, [piece()])).toEqual({
      name: 'today',
      params,
    });
    expect(placeOfScan(codeFor('piece', 'elsewhere', 'MS-08'), room, [piece()])).toBeNull();
  });

  it('a trainee’s label to the open piece, else to Today', () => {
    const code = codeFor('trainee', trainee!.id);
    expect(placeOfScan(code, room, [piece({ isOpen: false }), piece({ attemptId: 'a-2' })])).toEqual({
      name: 'sheet',
      params: { ...params, attemptId: 'a-2' },
    });
    expect(placeOfScan(code, room, [piece({ isOpen: false })])).toEqual({ name: 'today', params });
  });

  it('equipment to its list', () => {
    expect(placeOfScan(codeFor('thing', thing!.id), room, [])).toEqual({
      name: 'setup',
      params,
      query: { view: 'equipment' },
    });
  });

  it('a card to its method: the version that it names, else the one that is here', () => {
    const to = { name: 'method', params: { ...params, versionId: method!.versionId } };
    const { methodId, version } = method!;
    expect(placeOfScan(codeFor('method', methodId, String(version)), room, [])).toEqual(to);
    expect(placeOfScan(codeFor('method', methodId, '99'), room, [])).toEqual(to);
  });

  it('nowhere for what is another class’s, another program’s, or before a class is open', () => {
    for (const code of [
      codeFor('thing', 'elsewhere'),
      codeFor('trainee', 'elsewhere'),
      codeFor('method', 'elsewhere', '1'),
      'clear-mark:thing',
      'other:thing:1',
      '',
    ]) {
      expect(placeOfScan(code, room, [])).toBeNull();
    }
    expect(placeOfScan(codeFor('thing', thing!.id), null, [])).toBeNull();
  });
});
