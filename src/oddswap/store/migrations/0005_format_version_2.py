"""Stored documents and accepted swaps take the names of format version 2; reach maps are computed anew."""

import json

from oddswap.documents.upgrade import upgrade

# Table, column with a JSON document.
COLUMNS = (("client", "details"), ("place", "document"), ("line", "document"), ("coach", "settings"))


def up(migrator, db):
    db.execute_sql('ALTER TABLE "taken_swap" RENAME TO "accepted_swap"')
    db.execute_sql('ALTER TABLE "accepted_swap" RENAME COLUMN "taken_at" TO "accepted_at"')
    for table, column in (*COLUMNS, ("accepted_swap", "document")):
        rows = db.execute_sql(f'SELECT "id", "{column}" FROM "{table}" WHERE "{column}" IS NOT NULL').fetchall()
        for number, text in rows:
            new = upgrade(json.loads(text))
            if table == "accepted_swap":
                new = {"format": "odd-swap/accepted/2", "swap": new, "ranking": {}, "versions": ""}
            made = json.dumps(new, ensure_ascii=False)
            db.execute_sql(f'UPDATE "{table}" SET "{column}" = ? WHERE "id" = ?', (made, number))
    db.execute_sql('ALTER TABLE "accepted_swap" ADD COLUMN "match_now" REAL')
    db.execute_sql('DELETE FROM "reach_map"')


def down(migrator, db):
    raise NotImplementedError("older programs cannot read format version 2; open the copy that was kept before it")
