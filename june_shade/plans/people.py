"""Who did what is entered."""

from uuid import UUID

from june_shade.core.errors import InputError
from june_shade.store.log_tables import Person
from june_shade.store.session import Session, by_of


def did(session: Session, person_id: UUID | None) -> UUID | None:
    """Who did the work: whom the entry names, else who is signed in. What a technician enters is always their own.

    Raises InputError for a person that there is not.
    """
    by = by_of(session)
    if by is not None and (by.alone or person_id is None):
        return by.person_id
    if person_id is not None and session.get(Person, person_id) is None:
        raise InputError("there is no such person", "person_id")
    return person_id
