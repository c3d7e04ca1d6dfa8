import type { Knex } from 'knex';

export const name = '0013-intake-cost';

/**
 * The same rules at less cost an entry: what all entries need is read by one query for the batch, by indexes whatever the
 * planner expects of a list of unknown length; what hangs on other rows is looked for only where an entry has such a
 * thing; a batch asks once whether its attempts are open; and a number that moves on runs no trigger.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create or replace function take_entries(given jsonb, server_now timestamptz, most integer, most_of_trainee integer)
    returns table (i integer, became text, seq integer, there jsonb, at timestamptz, claimed_at timestamptz)
    language plpgsql set enable_hashjoin = off set enable_mergejoin = off as $$
    #variable_conflict use_column
    declare
      g record;
      current uuid;
      last_at timestamptz;
      last_device uuid;
      verdict text;
      missing text;
      number integer;
      first integer;
      moved uuid[] := '{}';
      moved_to integer[] := '{}';
      of_trainee integer;
      said timestamptz;
      held timestamptz;
      -- What was decided, by the entry's place in what was given; null where it was not taken.
      numbers integer[];
      helds timestamptz[];
      ids uuid[] := '{}';
      noted boolean := false;
      read boolean := false;
      latest timestamptz := server_now + interval '1 minute';
    begin
      perform 1 from attempts
        where id in (select (v ->> 'attempt_id')::uuid from jsonb_array_elements(given) v) order by id for update;
      -- With all locks held: a statement sees what was there when it began.
      for g in
        select x.*, a.state, a.next_seq, a.class_id, e.seq as there_seq,
               c.starts_on::timestamp at time zone c.time_zone as began
          from jsonb_to_recordset(given) as x (
            i integer, id uuid, attempt_id uuid, kind text, note text, capacity text, device_id uuid, at timestamptz,
            clock_offset_ms integer, target_id uuid, reading jsonb, stamp_thing uuid, stamp_at timestamptz,
            stamp_keeps boolean)
          join attempts a on a.id = x.attempt_id
          join classes c on c.id = a.class_id
          left join entries e on e.id = x.id
         order by x.attempt_id, x.i
      loop
        if current is distinct from g.attempt_id then
          if number > first then
            moved := moved || current;
            moved_to := moved_to || number;
          end if;
          current := g.attempt_id;
          number := g.next_seq;
          first := number;
          of_trainee := null;
          last_device := null;
        end if;

        verdict := 'taken';
        there := null;
        seq := g.there_seq;
        -- What hangs on another row is asked for only where there is such a thing: each condition below is a query.
        missing := null;
        if g.reading is not null then
          if not exists (
              select 1 from loss_references r
               where r.id = (g.reading ->> 'reference_id')::uuid and r.class_id = g.class_id) then
            missing := 'no_reference';
          end if;
        end if;
        if missing is null and g.stamp_thing is not null then
          if not exists (
              select 1 from instrument_spans s
               where s.thing_id = g.stamp_thing and s.attempt_id = g.attempt_id
                 and g.stamp_at <= s.until + interval '2 s'
                 and (g.stamp_keeps or g.stamp_at >= s.from_at - interval '2 s')) then
            missing := 'not_claimed';
          end if;
        end if;
        if missing is null and g.kind = 'retract' and g.target_id <> all (ids) then
          if not exists (select 1 from entries e where e.id = g.target_id and e.attempt_id = g.attempt_id) then
            missing := 'no_target';
          end if;
        end if;

        if seq is not null then
          verdict := 'there';
          select jsonb_build_object(
            'id', e.id, 'attemptId', e.attempt_id, 'kind', e.kind, 'criterionId', e.criterion_id, 'part', e.part,
            'value', e.value, 'voidReason', e.void_reason,
            'note', (select text from entry_notes where entry_id = e.id), 'authorId', e.author_id,
            'capacity', e.capacity, 'deviceId', e.device_id, 'source', e.source,
            'at', coalesce(e.claimed_at, e.at), 'supersedes', e.supersedes, 'targetId', e.target_id,
            'deliveredBy', e.delivered_by)
          into there from entries e where e.id = g.id;
        elsif g.state = 'withdrawn' then
          verdict := 'withdrawn';
        elsif missing is not null then
          verdict := missing;
        elsif g.state = 'signed' then
          select entry into there from unmerged_entries where id = g.id;
          verdict := case when there is null then 'late' else 'late_again' end;
        elsif number > most then
          verdict := 'full';
        elsif g.capacity = 'trainee' then
          if of_trainee is null then
            select count(*) into of_trainee from entries where attempt_id = g.attempt_id and capacity = 'trainee';
          end if;
          if of_trainee >= most_of_trainee then verdict := 'full_of_trainee';
          else of_trainee := of_trainee + 1;
          end if;
        end if;

        said := g.at + g.clock_offset_ms * interval '1 ms';
        if last_device is distinct from g.device_id then
          last_device := g.device_id;
          select e.at + e.clock_offset_ms * interval '1 ms' into last_at from entries e
            where e.attempt_id = g.attempt_id and e.device_id = g.device_id order by e.seq desc limit 1;
        end if;
        held := least(greatest(said, g.began, last_at - interval '5 s'), latest);
        if verdict = 'taken' then
          last_at := greatest(last_at, held);
          seq := number;
          number := number + 1;
          numbers[g.i] := seq;
          helds[g.i] := held;
          ids := ids || g.id;
          noted := noted or g.note is not null;
          read := read or g.reading is not null;
        end if;
        i := g.i;
        became := verdict;
        at := case when held = said then g.at else held - g.clock_offset_ms * interval '1 ms' end;
        claimed_at := case when held = said then null else g.at end;
        return next;
      end loop;
      if numbers is null then return; end if;
      if number > first then
        moved := moved || current;
        moved_to := moved_to || number;
      end if;
      update attempts as a set next_seq = t.number from unnest(moved, moved_to) as t (id, number) where a.id = t.id;

      insert into entries (id, attempt_id, seq, kind, criterion_id, part, value, void_reason, note_digest, author_id,
        capacity, device_id, source, at, claimed_at, clock_offset_ms, supersedes, target_id, delivered_by)
      select x.id, x.attempt_id, numbers[x.i], x.kind, x.criterion_id, x.part, x.value, x.void_reason, x.note_digest,
        x.author_id, x.capacity, x.device_id, x.source,
        case when helds[x.i] = x.at + x.clock_offset_ms * interval '1 ms' then x.at
             else helds[x.i] - x.clock_offset_ms * interval '1 ms' end,
        case when helds[x.i] = x.at + x.clock_offset_ms * interval '1 ms' then null else x.at end,
        x.clock_offset_ms, x.supersedes, x.target_id, x.delivered_by
      from jsonb_to_recordset(given) as x (
        i integer, id uuid, attempt_id uuid, kind text, criterion_id text, part text, value jsonb, void_reason text,
        note_digest text, author_id uuid, capacity text, device_id uuid, source text, at timestamptz,
        clock_offset_ms integer, supersedes uuid[], target_id uuid, delivered_by uuid)
      where numbers[x.i] is not null;
      if noted then
        insert into entry_notes (entry_id, salt, text)
        select x.id, x.note_salt, x.note
          from jsonb_to_recordset(given) as x (i integer, id uuid, note_salt text, note text)
         where numbers[x.i] is not null and x.note is not null;
      end if;
      if read then
        insert into readings (entry_id, attempt_id, reference_id, wavelength_nm, direction, fiber, value_text, unit,
          no_light, at, instrument_id, taken_at, calibrated_on)
        select x.id, x.attempt_id, r.reference_id, r.wavelength_nm, r.direction, r.fiber, r.value_text, r.unit,
          r.no_light, helds[x.i] - x.clock_offset_ms * interval '1 ms', r.instrument_id, r.taken_at, r.calibrated_on
        from jsonb_to_recordset(given) as x (
          i integer, id uuid, attempt_id uuid, clock_offset_ms integer, reading jsonb),
        jsonb_to_record(x.reading) as r (
          reference_id uuid, wavelength_nm integer, direction text, fiber integer, value_text text, unit text,
          no_light boolean, instrument_id uuid, taken_at timestamptz, calibrated_on date)
        where numbers[x.i] is not null and x.reading is not null;
      end if;
    end $$;

    drop trigger entries_open_only on entries;
    drop trigger entries_ring on entries;
    drop function refuse_entry_when_signed();
    drop function ring_for_entries();
    create function after_new_entries() returns trigger language plpgsql as $$
    declare changed record;
    begin
      for changed in
        select a.class_id, a.id, a.state from attempts a where a.id in (select attempt_id from fresh)
      loop
        if changed.state <> 'open' then
          raise exception 'the attempt is signed' using errcode = 'CM003';
        end if;
        perform pg_notify('clear_mark', changed.class_id || ' ' || changed.id);
      end loop;
      return null;
    end $$;
    create trigger entries_open_only after insert on entries
      referencing new table as fresh for each statement execute function after_new_entries();

    drop trigger attempts_fixed on attempts;
    create trigger attempts_kept before delete on attempts for each row execute function refuse_attempt_change();
    create trigger attempts_fixed before update on attempts for each row
      when (old.state <> new.state or new.trainee_id <> old.trainee_id
        or new.method_version_id <> old.method_version_id or new.piece_id <> old.piece_id
        or new.class_id <> old.class_id or new.started_at <> old.started_at
        or new.claimed_started_at is distinct from old.claimed_started_at
        or new.schools <> old.schools or new.link is distinct from old.link or new.next_seq < old.next_seq)
      execute function refuse_attempt_change();
    -- Room on the page for the next version of a row whose number moves with each entry.
    alter table attempts set (fillfactor = 60);
  `);
}
