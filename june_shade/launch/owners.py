"""`./june owner`: the first account of an organisation, or a new password for an owner who lost theirs."""

import getpass
import sys

from june_shade.core.errors import JuneShadeError
from june_shade.launch import cluster, serving
from june_shade.launch.backups import reached, why
from june_shade.plans import organisations
from june_shade.plans.accounts import people
from june_shade.store.organisation_tables import FIRST_ORGANISATION
from june_shade.store.session import DATABASE_FAILED, SessionMaker, make_engine, make_sessions

USAGE = "usage: ./june owner [--another | --reset NAME]"


def _asked(words: str, *, secret: bool = False) -> str:
    """What somebody types, or the next line of what is sent."""
    if not sys.stdin.isatty():
        return sys.stdin.readline().rstrip("\n")
    return getpass.getpass(f"{words}: ") if secret else input(f"{words}: ")


def manage(words: list[str]) -> int:
    """Make an owner, of the first organisation or of --another; or --reset one's password, told once."""
    if words not in ([], ["--another"]) and (len(words) != 2 or words[0] != "--reset"):
        print(USAGE, file=sys.stderr)
        return 2
    try:
        with reached() as url:
            engine = make_engine(url)
            sessions = make_sessions(engine)
            organisations.seed(sessions)
            if words[:1] == ["--reset"]:
                _reset(sessions, words[1])
            else:
                _found(sessions, another=bool(words))
            engine.dispose()
    except (OSError, EOFError, JuneShadeError, serving.CannotStart, cluster.ClusterError, *DATABASE_FAILED) as e:
        print(f"No account was made or changed: {getattr(e, 'field', '')} {why(e)}".replace("  ", " "), file=sys.stderr)
        return 1
    return 0


def _found(sessions: SessionMaker, *, another: bool) -> None:
    organisation, name = _asked("Firm or department"), _asked("Your name, as in the book")
    sign_in, password = _asked("Name to sign in with"), _asked("Password", secret=True)
    ours = FIRST_ORGANISATION
    if another:
        ours = people.new_organisation(sessions, organisation)
    people.found(sessions, organisation, name, sign_in, password, ours)
    print(f"{name} owns {organisation}: sign in as {sign_in}.")


def _reset(sessions: SessionMaker, sign_in: str) -> None:
    password = people.reset_owner(sessions, sign_in)
    print(f"{sign_in} signs in once with  {password}  and chooses another then.")
