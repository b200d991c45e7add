"""What each role may do: every route that writes is named here once, and nobody does what is not theirs.

Routes are named by their functions. Whoever works here reads everything but what is the owner's; a client reads only
what is shared with it.
"""

from june_shade.core.errors import ForbiddenError, SignInError
from june_shade.plans.accounts.roles import CLIENT, LEAD, OWNER, TECHNICIAN, Who

ANYONE = frozenset({
    "get_session", "sign_in", "sign_out", "found_organisation", "get_calendar", "get_shared", "get_own_calendar",
})  # fmt: skip
"""Without signing in: to do just that, and what has an address that is a secret."""
ONESELF = frozenset({"change_password", "put_language"})
"""All that is left to do with a password that another gave, and everyone's own."""
TURNS = frozenset({"take_turn", "end_turn"})
"""On a crew's phone, whoever's turn it is."""
WORK = frozenset({
    "change_pin", "sign_out_device", "put_late", "put_own_calendar",
    # the log and what is found at a tree
    "put_entry", "put_entries", "put_checkup", "withdraw_checkup", "look_at_tree", "put_gauge", "put_picture",
    "delete_picture", "put_end", "withdraw_end", "put_place",
    "put_soil_test", "withdraw_soil_test", "preview_soil_test",
    # planting, drip, mulch, dated care
    "put_stock_check", "plant_out", "undo_planted", "look_at_planting", "look_at_tree_planting", "put_tree_planting",
    "look_at_drip", "compare_drip",
    "put_layout", "withdraw_layout", "put_obstacles", "put_proof", "withdraw_proof", "put_catch",
    "withdraw_catch", "put_supply", "put_line_closed", "put_line_layouts", "put_gap", "look_at_mulch",
    "put_ground_row", "put_ground_places", "put_ground_thing", "delete_ground_thing", "look_at_ground_file",
    "get_saving", "judge_ring",
    "put_mulch_entry", "withdraw_mulch_entry", "put_mulch_choice", "put_mulch_job", "put_yard_move",
    "put_care_act", "withdraw_care_act",
    # the day and the fortnight
    "try_days", "choose_again", "put_wish", "put_crew_day", "rehearse_season", "look_at_pouring", "fetch_forecast",
    "next_day", "ask_box", "stop_box", "ask_probe", "put_probe_point", "delete_probe_point",
})  # fmt: skip
LEADING = frozenset({
    # trees, sites, kinds, stations, files
    "put_import", "read_import", "store_import", "cancel_import", "undo_import", "put_day", "put_trees", "put_tree",
    "put_row", "same_for_many", "put_planting", "withdraw_planting", "post_site", "put_site", "put_closed",
    "put_stop_order", "put_stop", "put_person", "post_station", "put_station", "put_made_up_forecast", "put_plant",
    "renew_calendar", "put_share", "revoke_share",
    # what holds for many days
    "put_thirst_answer", "withdraw_thirst_answer", "put_routine", "withdraw_routine", "put_own_act",
    "withdraw_own_act", "put_slack", "propose_modes", "put_modes", "put_let_go", "withdraw_let_go", "put_crew",
    "put_crew_closed", "put_lent", "put_restriction", "put_withdrawn", "put_saving_tasks", "put_prices",
    "put_ground_file", "put_ground_picture", "put_ground_points", "delete_ground_picture",
})  # fmt: skip
OWNING = frozenset({
    "get_backup", "post_restore", "list_accounts", "put_account", "reset_password", "get_audit", "list_late",
    "answer_late", "put_box", "put_box_closed", "put_probe", "put_probe_closed",
})  # fmt: skip
READING = frozenset({"list_shared"})
"""What a client asks for who signs in."""
LEAST = {
    route: role for routes, role in ((READING, CLIENT), (WORK, TECHNICIAN), (LEADING, LEAD), (OWNING, OWNER))
    for route in routes
}  # fmt: skip
NEEDS = {
    TECHNICIAN: "this is for those who work here: ask for it to be shared with you",
    LEAD: "this is a lead's to do: ask one",
    OWNER: "this is the owner's to do: ask them",
}
MUST_CHANGE = "choose a password of your own first"


def check(route: str, reads: bool, who: Who | None) -> None:
    """Raises SignInError where somebody must sign in first, ForbiddenError where a route is not theirs. route: its
    name; reads: it is asked with GET."""
    if route in ANYONE:
        return
    if who is None:
        raise SignInError("sign in to go on")
    if who.role is None:
        if route not in TURNS:
            raise SignInError("it is nobody's turn on this phone: tap your name")
        return
    if who.must_change and route not in ONESELF:
        raise ForbiddenError(MUST_CHANGE, "password")
    if route in TURNS | ONESELF:
        return
    least = LEAST.get(route) or (TECHNICIAN if reads else OWNER)
    if not who.may(least):
        raise ForbiddenError(NEEDS[least])
