import type { Knex } from 'knex';

export const name = '0012-intake';

/**
 * The one statement by which entries come in: locks their attempts in the order of their ids, finds what is there
 * already, bounds times, refuses what hangs on nothing, gives sequence numbers, and inserts. What an entry means was
 * checked before, by the sheet. For each entry one row: what became of it, its number, and what is there under its id.
 *
 * Before there were twelve statements a batch: as many ways there and back, and as many chances to hold the lock.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create function take_entries(given jsonb, server_now timestamptz, most integer, most_of_trainee integer)
    returns table (i integer, became text, seq integer, there jsonb, at timestamptz, claimed_at timestamptz)
    language plpgsql as $$
    #variable_conflict use_column
    begin
      perform 1 from attempts
        where id in (select (g ->> 'attempt_id')::uuid from jsonb_array_elements(given) g)
        order by id for update;

      return query
      with g as materialized (
        select * from jsonb_to_recordset(given) as x (
          i integer, id uuid, attempt_id uuid, kind text, criterion_id text, part text, value jsonb,
          void_reason text, note text, note_salt text, note_digest text, author_id uuid, capacity text,
          device_id uuid, source text, at timestamptz, clock_offset_ms integer, supersedes uuid[], target_id uuid,
          delivered_by uuid, reading jsonb, stamp_thing uuid, stamp_at timestamptz, stamp_keeps boolean)
      ),
      known as materialized (
        select g.i, e.seq, jsonb_build_object(
            'id', e.id, 'attemptId', e.attempt_id, 'kind', e.kind, 'criterionId', e.criterion_id, 'part', e.part,
            'value', e.value, 'voidReason', e.void_reason, 'note', n.text, 'authorId', e.author_id,
            'capacity', e.capacity, 'deviceId', e.device_id, 'source', e.source,
            'at', coalesce(e.claimed_at, e.at), 'supersedes', e.supersedes, 'targetId', e.target_id,
            'deliveredBy', e.delivered_by) as there
          from g join entries e on e.id = g.id left join entry_notes n on n.entry_id = e.id
      ),
      late as (select g.i, u.entry as there from g join unmerged_entries u on u.id = g.id),
      devices as materialized (
        select d.attempt_id, d.device_id, greatest(
            c.starts_on::timestamp at time zone c.time_zone,
            (select e.at + e.clock_offset_ms * interval '1 ms' from entries e
              where e.attempt_id = d.attempt_id and e.device_id = d.device_id order by e.seq desc limit 1)
              - interval '5 s') as earliest
          from (select distinct attempt_id, device_id from g) d
          join attempts a on a.id = d.attempt_id join classes c on c.id = a.class_id
      ),
      totals as (
        select attempt_id, count(*) filter (where capacity = 'trainee') as of_trainee from entries
          where attempt_id in (select attempt_id from g where capacity = 'trainee') group by attempt_id
      ),
      judged as materialized (
        select g.*, a.state, a.next_seq,
          case
            when k.i is not null then 'there'
            when l.i is not null then 'late_again'
            when a.state = 'withdrawn' then 'withdrawn'
            when g.reading is not null and not exists (
              select 1 from loss_references r
               where r.id = (g.reading ->> 'reference_id')::uuid and r.class_id = a.class_id) then 'no_reference'
            when g.stamp_thing is not null and not exists (
              select 1 from instrument_spans s
               where s.thing_id = g.stamp_thing and s.attempt_id = g.attempt_id
                 and g.stamp_at <= s.until + interval '2 s'
                 and (g.stamp_keeps or g.stamp_at >= s.from_at - interval '2 s')) then 'not_claimed'
            when g.kind = 'retract' and not exists (
                select 1 from entries e where e.id = g.target_id and e.attempt_id = g.attempt_id)
              and not exists (
                select 1 from g as b where b.id = g.target_id and b.attempt_id = g.attempt_id and b.i < g.i)
              then 'no_target'
            when a.state = 'signed' then 'late'
            when a.next_seq - 1 + row_number() over (partition by g.attempt_id order by g.i) > most then 'full'
            when g.capacity = 'trainee' and coalesce(t.of_trainee, 0)
              + count(*) filter (where g.capacity = 'trainee') over (partition by g.attempt_id order by g.i)
              > most_of_trainee then 'full_of_trainee'
            else 'taken'
          end as became,
          coalesce(k.there, l.there) as there, k.seq as known_seq,
          g.at + g.clock_offset_ms * interval '1 ms' as said,
          greatest(d.earliest, max(least(g.at + g.clock_offset_ms * interval '1 ms', server_now + interval '1 minute'))
            over (partition by g.attempt_id, g.device_id order by g.i
              rows between unbounded preceding and 1 preceding) - interval '5 s') as earliest
        from g
        join attempts a on a.id = g.attempt_id
        join devices d on d.attempt_id = g.attempt_id and d.device_id = g.device_id
        left join known k on k.i = g.i left join late l on l.i = g.i left join totals t on t.attempt_id = g.attempt_id
      ),
      bounded as materialized (
        select j.*, least(greatest(j.said, j.earliest), server_now + interval '1 minute') as held,
          case when j.became = 'taken' then (j.next_seq - 1
            + count(*) filter (where j.became = 'taken') over (partition by j.attempt_id order by j.i))::integer
          end as new_seq
        from judged j
      ),
      put as (
        insert into entries (id, attempt_id, seq, kind, criterion_id, part, value, void_reason, note_digest, author_id,
          capacity, device_id, source, at, claimed_at, clock_offset_ms, supersedes, target_id, delivered_by)
        select b.id, b.attempt_id, b.new_seq, b.kind, b.criterion_id, b.part, b.value, b.void_reason, b.note_digest,
          b.author_id, b.capacity, b.device_id, b.source,
          case when b.held = b.said then b.at else b.held - b.clock_offset_ms * interval '1 ms' end,
          case when b.held = b.said then null else b.at end,
          b.clock_offset_ms, b.supersedes, b.target_id, b.delivered_by
        from bounded b where b.became = 'taken' order by b.i
      ),
      noted as (
        insert into entry_notes (entry_id, salt, text)
        select b.id, b.note_salt, b.note from bounded b where b.became = 'taken' and b.note is not null
      ),
      read as (
        insert into readings (entry_id, attempt_id, reference_id, wavelength_nm, direction, fiber, value_text, unit,
          no_light, at, instrument_id, taken_at, calibrated_on)
        select b.id, b.attempt_id, r.reference_id, r.wavelength_nm, r.direction, r.fiber, r.value_text, r.unit,
          r.no_light, b.held - b.clock_offset_ms * interval '1 ms', r.instrument_id, r.taken_at, r.calibrated_on
        from bounded b, jsonb_to_record(b.reading) as r (
          reference_id uuid, wavelength_nm integer, direction text, fiber integer, value_text text, unit text,
          no_light boolean, instrument_id uuid, taken_at timestamptz, calibrated_on date)
        where b.became = 'taken' and b.reading is not null
      ),
      moved as (
        update attempts a set next_seq = n.last + 1
          from (select attempt_id, max(new_seq) as last from bounded where became = 'taken' group by attempt_id) n
         where a.id = n.attempt_id
      )
      select b.i, b.became, coalesce(b.new_seq, b.known_seq), b.there,
        case when b.held = b.said then b.at else b.held - b.clock_offset_ms * interval '1 ms' end,
        case when b.held = b.said then null else b.at end
      from bounded b order by b.i;
    end $$;
  `);
}
