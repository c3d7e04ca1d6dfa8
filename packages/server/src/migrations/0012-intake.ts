import type { Knex } from 'knex';

export const name = '0012-intake';

/**
 * The one statement by which entries come in: locks their attempts in the order of their ids, finds what is there
 * already, bounds times, refuses what hangs on nothing, gives sequence numbers, and inserts. What an entry means was
 * checked before, by the sheet. For each entry one row: what became of it, its number, and what is there under its id.
 *
 * Before there were twelve statements a batch: as many ways there and back, and as many chances to hold the lock.
 * Rejected: one large statement over all entries; most of its time went into starting its many plan nodes.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create function take_entries(given jsonb, server_now timestamptz, most integer, most_of_trainee integer)
    returns table (i integer, became text, seq integer, there jsonb, at timestamptz, claimed_at timestamptz)
    language plpgsql as $$
    #variable_conflict use_column
    declare
      g record;
      a record;
      current uuid;
      last_at timestamptz;
      last_device uuid;
      verdict text;
      number integer;
      of_trainee integer;
      said timestamptz;
      held timestamptz;
      -- What was decided, entry by entry.
      taken integer[] := '{}';
      numbers integer[] := '{}';
      helds timestamptz[] := '{}';
      ids uuid[] := '{}';
      noted boolean := false;
      read boolean := false;
      latest timestamptz := server_now + interval '1 minute';
    begin
      for g in
        select * from jsonb_to_recordset(given) as x (
          i integer, id uuid, attempt_id uuid, kind text, note text, capacity text, device_id uuid, at timestamptz,
          clock_offset_ms integer, target_id uuid, reading jsonb, stamp_thing uuid, stamp_at timestamptz,
          stamp_keeps boolean) order by attempt_id, i
      loop
        if current is distinct from g.attempt_id then
          update attempts set next_seq = number where id = current and next_seq < number;
          select x.id, x.state, x.next_seq, x.class_id,
                 c.starts_on::timestamp at time zone c.time_zone as began into a
            from attempts x join classes c on c.id = x.class_id where x.id = g.attempt_id for update of x;
          current := g.attempt_id;
          number := a.next_seq;
          of_trainee := null;
          last_device := null;
        end if;

        verdict := 'taken';
        there := null;
        seq := null;
        select e.seq, jsonb_build_object(
            'id', e.id, 'attemptId', e.attempt_id, 'kind', e.kind, 'criterionId', e.criterion_id, 'part', e.part,
            'value', e.value, 'voidReason', e.void_reason,
            'note', (select text from entry_notes where entry_id = e.id), 'authorId', e.author_id,
            'capacity', e.capacity, 'deviceId', e.device_id, 'source', e.source,
            'at', coalesce(e.claimed_at, e.at), 'supersedes', e.supersedes, 'targetId', e.target_id,
            'deliveredBy', e.delivered_by)
          into seq, there from entries e where e.id = g.id;
        if seq is not null then
          verdict := 'there';
        elsif a.state = 'withdrawn' then
          verdict := 'withdrawn';
        elsif g.reading is not null and not exists (
            select 1 from loss_references r
             where r.id = (g.reading ->> 'reference_id')::uuid and r.class_id = a.class_id) then
          verdict := 'no_reference';
        elsif g.stamp_thing is not null and not exists (
            select 1 from instrument_spans s
             where s.thing_id = g.stamp_thing and s.attempt_id = g.attempt_id
               and g.stamp_at <= s.until + interval '2 s'
               and (g.stamp_keeps or g.stamp_at >= s.from_at - interval '2 s')) then
          verdict := 'not_claimed';
        elsif g.kind = 'retract' and g.target_id <> all (ids) and not exists (
            select 1 from entries e where e.id = g.target_id and e.attempt_id = g.attempt_id) then
          verdict := 'no_target';
        elsif a.state = 'signed' then
          select entry into there from unmerged_entries where id = g.id;
          verdict := case when there is null then 'late' else 'late_again' end;
        elsif number > most then
          verdict := 'full';
        elsif g.capacity = 'trainee' then
          if of_trainee is null then
            select count(*) into of_trainee from entries where attempt_id = a.id and capacity = 'trainee';
          end if;
          if of_trainee >= most_of_trainee then verdict := 'full_of_trainee';
          else of_trainee := of_trainee + 1;
          end if;
        end if;

        said := g.at + g.clock_offset_ms * interval '1 ms';
        if last_device is distinct from g.device_id then
          last_device := g.device_id;
          select e.at + e.clock_offset_ms * interval '1 ms' into last_at from entries e
            where e.attempt_id = a.id and e.device_id = g.device_id order by e.seq desc limit 1;
        end if;
        held := least(greatest(said, a.began, last_at - interval '5 s'), latest);
        if verdict = 'taken' then
          last_at := greatest(last_at, held);
          seq := number;
          number := number + 1;
          taken := taken || g.i;
          numbers := numbers || seq;
          helds := helds || held;
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
      update attempts set next_seq = number where id = current and next_seq < number;
      if taken = '{}' then return; end if;

      insert into entries (id, attempt_id, seq, kind, criterion_id, part, value, void_reason, note_digest, author_id,
        capacity, device_id, source, at, claimed_at, clock_offset_ms, supersedes, target_id, delivered_by)
      select x.id, x.attempt_id, t.seq, x.kind, x.criterion_id, x.part, x.value, x.void_reason, x.note_digest,
        x.author_id, x.capacity, x.device_id, x.source,
        case when t.held = x.at + x.clock_offset_ms * interval '1 ms' then x.at
             else t.held - x.clock_offset_ms * interval '1 ms' end,
        case when t.held = x.at + x.clock_offset_ms * interval '1 ms' then null else x.at end,
        x.clock_offset_ms, x.supersedes, x.target_id, x.delivered_by
      from unnest(taken, numbers, helds) as t (i, seq, held)
      join jsonb_to_recordset(given) as x (
        i integer, id uuid, attempt_id uuid, kind text, criterion_id text, part text, value jsonb, void_reason text,
        note_digest text, author_id uuid, capacity text, device_id uuid, source text, at timestamptz,
        clock_offset_ms integer, supersedes uuid[], target_id uuid, delivered_by uuid) on x.i = t.i;
      if noted then
        insert into entry_notes (entry_id, salt, text)
        select x.id, x.note_salt, x.note
          from jsonb_to_recordset(given) as x (i integer, id uuid, note_salt text, note text)
         where x.i = any (taken) and x.note is not null;
      end if;
      if read then
        insert into readings (entry_id, attempt_id, reference_id, wavelength_nm, direction, fiber, value_text, unit,
          no_light, at, instrument_id, taken_at, calibrated_on)
        select x.id, x.attempt_id, r.reference_id, r.wavelength_nm, r.direction, r.fiber, r.value_text, r.unit,
          r.no_light, t.held - x.clock_offset_ms * interval '1 ms', r.instrument_id, r.taken_at, r.calibrated_on
        from unnest(taken, helds) as t (i, held)
        join jsonb_to_recordset(given) as x (
          i integer, id uuid, attempt_id uuid, clock_offset_ms integer, reading jsonb) on x.i = t.i,
        jsonb_to_record(x.reading) as r (
          reference_id uuid, wavelength_nm integer, direction text, fiber integer, value_text text, unit text,
          no_light boolean, instrument_id uuid, taken_at timestamptz, calibrated_on date)
        where x.reading is not null;
      end if;
    end $$;

    -- By the index alone, in one look.
    create or replace function refuse_entry_when_signed() returns trigger language plpgsql as $$
    begin
      perform 1 from attempts where id = new.attempt_id and state = 'open';
      if not found then
        raise exception 'the attempt is signed' using errcode = 'CM003';
      end if;
      return new;
    end $$;
  `);
}
