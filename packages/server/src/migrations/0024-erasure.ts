import type { Knex } from 'knex';

export const name = '0024-erasure';

/**
 * A person is erased: what names the person goes, what was scored stays. Texts that stand in the chain by a salted digest
 * are deleted, others become the token that replaces the name; the append-only rows let that one change through, from that function alone.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table people add column erased_at timestamptz;
    alter table pictures add column erased_at timestamptz;

    -- Append only, but for one text of the row, which its path names, and that within an erasure alone.
    create function refuse_all_but_text() returns trigger language plpgsql as $$
    begin
      if tg_op = 'UPDATE' and current_setting('clear_mark.erasing', true) = 'yes'
        and to_jsonb(new) #- tg_argv[0]::text[] = to_jsonb(old) #- tg_argv[0]::text[] then
        return new;
      end if;
      raise exception '% is append only', tg_table_name using errcode = 'CM002';
    end $$;
    drop trigger unmerged_append_only on unmerged_entries;
    create trigger unmerged_append_only before update or delete on unmerged_entries
      for each row execute function refuse_all_but_text('{entry,note}');
    drop trigger faces_append_only on faces;
    create trigger faces_append_only before update or delete on faces
      for each row execute function refuse_all_but_text('{label}');
    drop trigger face_gradings_append_only on face_gradings;
    create trigger face_gradings_append_only before update or delete on face_gradings
      for each row execute function refuse_all_but_text('{review,verdict,reason}');
    drop trigger certificate_withdrawals_append_only on certificate_withdrawals;
    create trigger certificate_withdrawals_append_only before update or delete on certificate_withdrawals
      for each row execute function refuse_all_but_text('{reason}');

    -- The application may not touch these rows: this function alone does, with the rights of its owner.
    create function erase_texts_of(person uuid, token text, names text[]) returns jsonb
    language plpgsql security definer set search_path = public, pg_temp as $$
    declare
      attempt_ids uuid[] := coalesce((select array_agg(id) from attempts where trainee_id = person), '{}');
      notes integer;
      late integer;
      reasons integer;
      part integer;
      gradings integer;
      labels integer;
    begin
      perform set_config('clear_mark.erasing', 'yes', true);
      delete from entry_notes n using entries e where e.id = n.entry_id and e.attempt_id = any (attempt_ids);
      get diagnostics notes = row_count;
      update unmerged_entries set entry = jsonb_set(entry, '{note}', to_jsonb(token))
       where attempt_id = any (attempt_ids) and coalesce(entry ->> 'note', '') <> '';
      get diagnostics late = row_count;
      update signed_revisions set reason = null where attempt_id = any (attempt_ids) and reason is not null;
      get diagnostics reasons = row_count;
      update sign_offs set note = '' where trainee_id = person and note <> '';
      get diagnostics part = row_count;
      reasons := reasons + part;
      update certificate_withdrawals w set reason = token from certificates k
       where k.id = w.certificate_id and k.trainee_id = person;
      get diagnostics part = row_count;
      reasons := reasons + part;
      update face_gradings g set review = jsonb_set(g.review, '{verdict,reason}', to_jsonb(token)) from faces f
       where f.id = g.face_id and (f.trainee_id = person or f.attempt_id = any (attempt_ids))
         and coalesce(g.review #>> '{verdict,reason}', '') <> '';
      get diagnostics gradings = row_count;
      update faces set label = token
       where (trainee_id = person or attempt_id = any (attempt_ids)) and label <> token;
      get diagnostics labels = row_count;
      update pieces p set label = token from attempts a
       where a.piece_id = p.id and a.trainee_id = person and lower(p.label) like any (names);
      get diagnostics part = row_count;
      perform set_config('clear_mark.erasing', '', true);
      return jsonb_build_object('notes', notes, 'lateNotes', late, 'reasons', reasons, 'gradings', gradings,
        'labels', labels + part);
    end $$;
    revoke all on function erase_texts_of(uuid, text, text[]) from public;
  `);
}
