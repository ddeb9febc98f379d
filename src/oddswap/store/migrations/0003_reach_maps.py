"""Reach maps that were computed, one a client and place, with a digest of what they were computed from."""

from peewee import ForeignKeyField, TextField


def up(migrator, db):
    class Table(db.Model):
        class Meta:
            legacy_table_names = False

    class Client(Table):
        pass

    class Place(Table):
        pass

    class ReachMap(Table):
        client = ForeignKeyField(Client, on_delete="CASCADE")
        place = ForeignKeyField(Place, on_delete="CASCADE")
        digest = TextField()
        document = TextField()

        class Meta:
            indexes = ((("client", "place"), True),)

    db.create_tables([ReachMap])


def down(migrator, db):
    db.execute_sql('DROP TABLE "reach_map"')
