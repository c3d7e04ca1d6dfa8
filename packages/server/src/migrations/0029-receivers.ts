import type { Knex } from 'knex';

export const name = '0029-receivers';

/**
 * Other programs that are told what happened: each thing becomes a row for each receiver in the transaction in which it
 * happens, so that none is lost and none is told that did not happen; a process sends the rows and tries again.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table receivers (
      id uuid primary key,
      kind text not null check (kind in ('webhook', 'xapi')),
      label text not null check (length(trim(label)) between 1 and 60),
      address text not null check (length(address) <= 500),
      -- The address by which this school is known in statements.
      home text not null default '',
      secret text not null,
      events text[] not null check (cardinality(events) > 0),
      paused boolean not null default false,
      made_by uuid not null references people (id),
      made_at timestamptz not null default now()
    );
    create table deliveries (
      id uuid primary key default gen_random_uuid(),
      receiver_id uuid not null references receivers (id) on delete cascade,
      event text not null,
      class_id uuid references classes (id),
      subject_id uuid,
      revision integer,
      at timestamptz not null default now(),
      tries integer not null default 0,
      next_try timestamptz not null default now(),
      delivered_at timestamptz,
      given_up_at timestamptz,
      last_answer text not null default ''
    );
    create index deliveries_due on deliveries (next_try) where delivered_at is null and given_up_at is null;
    create index deliveries_receiver on deliveries (receiver_id, at desc);

    create function tell_receivers(what text, of_class uuid, about uuid, of_revision integer) returns void
    language plpgsql as $$
    begin
      insert into deliveries (receiver_id, event, class_id, subject_id, revision)
        select id, what, of_class, about, of_revision from receivers where what = any (events) and not paused;
      if found then perform pg_notify('clear_mark', 'delivery new'); end if;
    end $$;
    create function tell_of_revision() returns trigger language plpgsql as $$
    begin
      perform tell_receivers(case when new.revision = 1 then 'piece.signed' else 'piece.amended' end,
        new.class_id, new.attempt_id, new.revision);
      return null;
    end $$;
    create trigger signed_revisions_tell after insert on signed_revisions
      for each row execute function tell_of_revision();
    create function tell_of_sign_off() returns trigger language plpgsql as $$
    begin
      perform tell_receivers('trainee.signed_off', new.class_id, new.id, null);
      return null;
    end $$;
    create trigger sign_offs_tell after insert on sign_offs for each row execute function tell_of_sign_off();
    create function tell_of_certificate() returns trigger language plpgsql as $$
    begin
      perform tell_receivers('certificate.issued', new.class_id, new.id, null);
      return null;
    end $$;
    create trigger certificates_tell after insert on certificates
      for each row execute function tell_of_certificate();
    create function tell_of_withdrawal() returns trigger language plpgsql as $$
    begin
      perform tell_receivers('certificate.withdrawn', (select class_id from certificates where id = new.certificate_id),
        new.certificate_id, null);
      return null;
    end $$;
    create trigger certificate_withdrawals_tell after insert on certificate_withdrawals
      for each row execute function tell_of_withdrawal();
  `);
}
