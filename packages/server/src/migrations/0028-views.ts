import type { Knex } from 'knex';

export const name = '0028-views';

/**
 * Views for whoever reads the results with a spreadsheet or another program by SQL: plain words, one line a thing, names in place
 * of ids, nothing of accounts. They stay as they are named; tables behind them may change.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create schema views;
    create function views.verdict_of(mark "char") returns text language sql immutable as $$
      select case mark when 'P' then 'pass' when 'p' then 'marginal_pass' when 'F' then 'fail' when 'f' then 'marginal_fail'
                       when 'S' then 'fail' when 'V' then 'void' when 'I' then 'incomplete' end
    $$;
    create view views.classes as
      select id as class_id, name, place, time_zone, starts_on, ends_on from classes;
    create view views.pieces as
      select a.id as piece_id, a.class_id, c.name as class, p.name as trainee, i.label as piece, v.title as method,
             v.method_id, v.version as method_version, a.started_at, r.kind as signed_as, r.revision, s.name as signed_by,
             r.signed_at, r.outcome ->> 'verdict' as verdict,
             (r.outcome #>> '{points,earned}')::integer as points_earned,
             (r.outcome #>> '{points,possible}')::integer as points_possible
        from attempts a
        join classes c on c.id = a.class_id
        join people p on p.id = a.trainee_id
        join pieces i on i.id = a.piece_id
        join method_versions v on v.id = a.method_version_id
        join lateral (select * from signed_revisions x where x.attempt_id = a.id order by revision desc limit 1) r on true
        join people s on s.id = r.signed_by;
    create view views.skills as
      select o.attempt_id as piece_id, o.class_id, p.name as trainee, o.skill,
             views.verdict_of(o.mark) as verdict,
             o.started_at, o.minutes
        from outcome_skills o join people p on p.id = o.trainee_id;
    create view views.criteria as
      select o.attempt_id as piece_id, o.class_id, p.name as trainee, o.method_id, o.criterion_id, o.skill,
             views.verdict_of(o.mark) as verdict,
             o.points as points_possible, o.points - o.lost as points_earned, o.value, o.faults, o.started_at
        from outcome_criteria o join people p on p.id = o.trainee_id;
    create view views.losses as
      select o.attempt_id as piece_id, o.class_id, p.name as trainee, o.method_id, o.criterion_id, o.wavelength_nm,
             o.direction, o.fiber, o.reference_method, o.fiber_class, o.loss_db, o.limit_db, o.expected_db,
             views.verdict_of(o.mark) as verdict, o.started_at
        from outcome_losses o join people p on p.id = o.trainee_id;
    create view views.sign_offs as
      select s.id as sign_off_id, s.class_id, p.name as trainee, s.skill, s.rule, s.evidence, s.lapses_on, b.name as by, s.at
        from sign_offs s join people p on p.id = s.trainee_id join people b on b.id = s.by;
    create view views.equipment as
      select t.id as thing_id, t.class_id, t.kind, t.label, t.retired_at is null as in_use,
             (select count(*) from attempt_things x where x.thing_id = t.id) as pieces
        from things t;
  `);
}
