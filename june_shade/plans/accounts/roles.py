"""What people are to the program, and who somebody is that asks it something."""

from dataclasses import dataclass, replace
from uuid import UUID

from june_shade.store.account_tables import CLIENT as CLIENT
from june_shade.store.account_tables import LEAD as LEAD
from june_shade.store.account_tables import OWNER as OWNER
from june_shade.store.account_tables import ROLES as ROLES
from june_shade.store.account_tables import TECHNICIAN as TECHNICIAN
from june_shade.store.organisation_tables import FIRST_ORGANISATION
from june_shade.store.session import By

RANK = {CLIENT: 0, TECHNICIAN: 1, LEAD: 2, OWNER: 3}
"""Who may do more may do all that who may do less does; a client only reads what is shared with it."""


@dataclass(frozen=True, slots=True)
class Who:
    """Who asks. role: None where a crew's phone is nobody's at this moment. is_open: there are no accounts yet, so that
    whoever sits at this machine may do everything."""

    organisation_id: UUID
    role: str | None
    account_id: UUID | None = None
    person_id: UUID | None = None
    name: str = ""
    sign_in: str = ""
    device_id: UUID | None = None
    shared: bool = False
    must_change: bool = False
    is_open: bool = False

    @property
    def by(self) -> By | None:
        """Who enters what they write."""
        if self.account_id is None or self.person_id is None:
            return None
        return By(self.account_id, self.person_id, alone=not self.may(LEAD))

    def may(self, role: str) -> bool:
        """Whether what asks for a role is theirs to do."""
        return self.role is not None and RANK[self.role] >= RANK[role]


ANYBODY = Who(FIRST_ORGANISATION, OWNER, is_open=True)
"""Who asks as long as there are no accounts."""


def on_shared(who: Who) -> Who:
    """The same on a crew's phone: settings are never changed from one."""
    return replace(who, role=TECHNICIAN) if who.may(TECHNICIAN) else who
