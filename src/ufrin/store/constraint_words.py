"""What each constraint of the database means to a person when it is broken."""

from ufrin.errors import InUse, Refused, UfrinError
from ufrin.language import Text

# what a broken constraint means to a person
SPOKEN: dict[str, UfrinError] = {
    "rubber_name_taken": Refused(
        "name", Text("Another rubber on the Shelf has this name. Two tins with one name get mixed up: choose another.")
    ),
    "rubber_name_length": Refused("name", Text("A name has 1 to 120 characters.")),
    "workshop_backups_kept": Refused("kept", Text("Keep between 1 and 366 backups.")),
    "workshop_backup_wish": Refused("wish_days", Text("Between 0 and 366 days; 0 asks for no warning.")),
    "shared_for": Refused("for_whom", Text("Say in 1 to 60 characters whom it is for.")),
    "shared_of_job": Refused("", Text("That job is not here any more.")),
    "practice_who": Refused("who", Text("Type your name: your progress is kept under it.")),
    "account_once": Refused(
        "name", Text("Somebody of this name has an account already. Add what tells the two apart.")
    ),
    "account_name": Refused("name", Text("A name has 1 to 60 characters.")),
    "account_role": Refused("role", Text("That is not one of the roles. Choose again.")),
    "device_name": Refused("name", Text("A name has 1 to 60 characters, such as Bench by the window.")),
    "device_who": Refused("who", Text("A name has 1 to 60 characters.")),
    "person_once": Refused("name", Text("Somebody of this name works here already. Add what tells the two apart.")),
    "equipment_once": Refused("equipment_name", Text("There is equipment of this name already. Choose another name.")),
    "away_of_equipment": Refused("equipment_id", Text("That equipment is not here any more. Choose another.")),
    "day_off_of_person": Refused("person_id", Text("That person does not work here any more. Choose another.")),
    "other_work_of_person": Refused("person_id", Text("That person does not work here any more. Choose another.")),
    "other_work_with": Refused("equipment_id", Text("That equipment is not here any more. Choose another.")),
    "placed_with_person": Refused("person", Text("That person does not work here any more. Choose another.")),
    "job_name_length": Refused("name", Text("A job's name has 1 to 120 characters.")),
    "rubber_ratio_by_weight": Refused(
        "weight_a", Text("A ratio of nothing to something never sets. Both numbers must be more than 0.")
    ),
    "rubber_ratio_by_volume": Refused(
        "volume_a", Text("A ratio of nothing to something never sets. Both numbers must be more than 0.")
    ),
    "partly_filled_is_not_short": Refused(
        "was_short", Text("A cavity that was only partly filled on purpose was not short. Tick one of the two.")
    ),
    "rubber_post_cure": Refused(
        "post_cure_c", Text("A post-cure has two figures, how hot and for how long: 20 to 300 °C, and some minutes.")
    ),
    "container_name_taken": Refused(
        "name",
        Text("Another container on the Shelf has this name. Two pots with one name get mixed up: choose another."),
    ),
    "container_name_length": Refused("name", Text("A name has 1 to 120 characters.")),
    "container_height": Refused("height_mm", Text("A container's height must be more than nothing.")),
    "mesh_in_use": Refused("mesh", Text("The mesh named here is not in the record book. Upload it again.")),
    "additive_name_taken": Refused(
        "name",
        Text("Another additive on the Shelf has this name. Two bottles with one name get mixed up: choose another."),
    ),
    "additive_name_length": Refused("name", Text("A name has 1 to 120 characters.")),
    "cup_name_taken": Refused("name", Text("Another cup on the Shelf has this name. Choose another.")),
    "cup_name_length": Refused("name", Text("A name has 1 to 120 characters.")),
    "scale_name_taken": Refused(
        "name", Text("Another scale has this name. Choose another, so that nobody reads the wrong one.")
    ),
    "scale_name_length": Refused("name", Text("A name has 1 to 120 characters.")),
    "lot_code_taken": Refused(
        "code",
        Text(
            "This lot is on the Shelf already. Count it again there, or add what distinguishes "
            "the two tins to its code."
        ),
    ),
    "lot_part_fits": Refused(
        "part", Text("A lot of a rubber is of its part A or of its part B; a lot of anything else is of all of it.")
    ),
    "lot_was_poured": Refused("lot_id", Text("This lot is not on the Shelf any more. Choose another.")),
    "workshop_confidence": Refused(
        "confidence_pct", Text("Choose how often it should be enough: between 50 and 99 pours out of 100.")
    ),
    "product_name_taken": Refused("name", Text("Another release on the Shelf has this name. Choose another.")),
    "product_name_length": Refused("name", Text("A name has 1 to 120 characters.")),
    "workshop_air": Refused("air", Text("That is not one of the choices. Choose again.")),
    "workshop_release": Refused("release", Text("That is not one of the choices. Choose again.")),
    "own_rule_once": Refused("", Text("The same test is counted on already.")),
    "own_rule_why": Refused("why", Text("Say in up to 400 characters what was seen.")),
    "sign_off_reason": Refused("reason", Text("Say in up to 400 characters why it may be poured all the same.")),
    "sign_off_who": Refused("who", Text("Who takes it upon themselves? A name of up to 120 characters is kept.")),
    "sign_off_about": Refused("", Text("That stop is not there any more. Look at the page again.")),
    "fault_note": Refused("note", Text("That is too long: 400 characters are the most.")),
    "safety_sheet_name": Refused("file", Text("The file's name has 1 to 200 characters.")),
    "rubber_family": Refused("family", Text("That is not one of the choices. Choose again.")),
    "rubber_form": Refused("form", Text("That is not one of the choices. Choose again.")),
    "rubber_thinner_of": Refused("thinner_of", Text("That is not one of the choices. Choose again.")),
    "rubber_hardness": Refused("hardness", Text("Shore hardness runs from 0 to 100, on the scale 00, A or D.")),
    "rubber_ratio_has_two_parts": Refused("weight_a", Text("A ratio has two numbers: one for A and one for B.")),
    "rubber_ratio_is_a_number": Refused("weight_a", Text("A ratio has two ordinary numbers: one for A and one for B.")),
    "rubber_figures": Refused(
        "", Text("One of this rubber's figures lies outside what is possible. Check them on its tin.")
    ),
    "rubber_price": Refused("kit_price", Text("A price is 0 or more.")),
    "additive_kind": Refused("kind", Text("That is not one of the choices. Choose again.")),
    "additive_family": Refused("family", Text("That is not one of the choices. Choose again.")),
    "additive_figures": Refused("", Text("One of these figures lies outside what is possible. Check them on its tin.")),
    "additive_price": Refused("pack_price", Text("A price is 0 or more.")),
    "product_kind": Refused("kind", Text("That is not one of the choices. Choose again.")),
    "product_put_on": Refused("by", Text("That is not one of the choices. Choose again.")),
    "product_finish": Refused("finish", Text("That is not one of the choices. Choose again.")),
    "product_figures": Refused("", Text("One of these figures lies outside what is possible. Check them on its tin.")),
    "product_price": Refused("pack_price", Text("A price is 0 or more.")),
    "cup_figures": Refused("", Text("A cup's sizes are more than 0 and at most 10 m. Measure it again.")),
    "container_material": Refused("material", Text("That is not one of the choices. Choose again.")),
    "container_figures": Refused("", Text("A container's sizes are more than 0 and at most 10 m. Measure it again.")),
    "scale_figures": Refused("step_g", Text("A scale's steps are more than 0 and less than the most that it weighs.")),
    "container_shape": Refused("shape", Text("That is not one of the choices. Choose again.")),
    "coupon_parts": Refused("parts", Text("A coupon has 0 to 50 parts of thinner.")),
    "coupon_scale": Refused("scale", Text("Shore hardness is read on the scale 00, A or D.")),
    "done_step_key": Refused("", Text("That step is not there any more. Look at the page again.")),
    "lot_code_length": Refused("code", Text("A lot has a code of 1 to 60 characters; it is printed on the tin.")),
    "lot_part": Refused("part", Text("A lot is of part A, of part B, or of all.")),
    "mesh_name_length": Refused("file", Text("The file's name has at most 200 characters.")),
    "pour_who_length": Refused("who", Text("A name has at most 120 characters.")),
    "pour_entry_token": Refused("", Text("This page is out of date. Reload it: nothing is lost.")),
    "pour_entry_number": Refused("", Text("This page is out of date. Reload it: nothing is lost.")),
    "coupon_figures": Refused("readings", Text("Readings run from 0 to 100, and a coupon has a thickness.")),
    "pour_of_job": InUse(Text("This job has pours on record, so it can't be deleted. Archive it instead.")),
    "pour_plan": Refused("", Text("This pour has no plan. Begin it again from its job.")),
    "pour_figures": Refused("", Text("What a pour needed and used are ordinary numbers of grams, 0 or more.")),
    "pour_finished_after_start": Refused("", Text("A pour can't be finished before it was begun. Check the clock.")),
    "pour_entry_kind": Refused("", Text("The record knows no such line. Reload the page.")),
    "pour_entry_figures": Refused("net_g", Text("That is no weight that a scale shows. Type it again.")),
    "rubber_times": Refused(
        "mix_most_min",
        Text("Times are more than nothing, and the longest mixing time is not below the shortest. Check them."),
    ),
    "pour_entry_what": Refused("", Text("The record knows no such answer. Reload the page.")),
    "pour_entry_volume": Refused("volume_ml", Text("What is missing is more than nothing and at most a cubic metre.")),
    "photo_of_entry": Refused("", Text("The line that this picture belongs to is not in the record. Reload the page.")),
    "photo_size": Refused("photo", Text("A picture is kept with at most 4000 pixels each way. Take it again.")),
    "thermometer_name_taken": Refused("name", Text("Another thermometer has this name. Choose another.")),
    "thermometer_name_length": Refused("name", Text("A name has 1 to 120 characters.")),
    "thermometer_baud": Refused("baud", Text("A serial line runs at 50 to 4000000 baud; 9600 is usual.")),
    "entry_of_pour": Refused("", Text("This pour is not in the record any more. Reload the page.")),
    "entry_of_entry": Refused(
        "of_number", Text("The line that is to be corrected is not in the record. Reload the page.")
    ),
    "record_kept": InUse(Text("The record of pours is only added to: nothing in it is changed or deleted.")),
    "lot_left": Refused("left_g", Text("A tin never holds less than nothing. Count it again.")),
    "lot_left_of_got": Refused("left_g", Text("There can't be more left in a tin than was in it when it came.")),
    "lot_got": Refused("got_g", Text("How much came? A tin holds more than nothing when it comes.")),
    "lot_price": Refused("price", Text("A price is 0 or more.")),
    "lot_stock": Refused(
        "left_g", Text("What is left in a tin is what came less what was taken. Count it again instead.")
    ),
    "lot_move_kind": Refused("", Text("The history of a tin knows no such line. Reload the page.")),
    "lot_move_names_its_pour": Refused("", Text("What was poured from a tin names its pour. Reload the page.")),
    "lot_move_names_its_entry": Refused(
        "", Text("What was poured from a tin names its line in the record. Reload the page.")
    ),
    "lot_move_of_entry": Refused("", Text("The pour that is named here is not in the record. Reload the page.")),
    "lot_move_grams": Refused("", Text("That is no weight that a tin holds. Type it again.")),
    "own_rule_pour": Refused("pour", Text("That is not one of the choices. Choose again.")),
    "own_rule_touches": Refused("touches", Text("Name the surface in 1 to 120 characters.")),
    "own_rule_between": Refused("between", Text("That is not one of the choices. Choose again.")),
    "own_rule_verdict": Refused("verdict", Text("That is not one of the choices. Choose again.")),
    "fault_symptom": Refused("symptom", Text("That is not one of the choices. Choose again.")),
    "fault_cause": Refused("cause", Text("That is not one of the choices. Choose again.")),
    "station_input_known": Refused("", Text("A station has no such input. Reload the page and fill it in again.")),
    "station_input_kind": Refused(
        "", Text("Text stands where a number belongs, or the other way round. Type it again.")
    ),
    "other_job_shares_box": InUse(Text("The job that shares this box is not there any more. Choose another.")),
    "third_job_shares_box": InUse(Text("The job that shares this box is not there any more. Choose another.")),
    "box_is_shared_with_others": Refused("other_id", Text("A job shares its box with another job, not with itself.")),
    "job_advised_style": Refused("style", Text("That is not one of the choices. Choose again.")),
    "mesh_work_progress": Refused("", Text("Work is between nothing and all of it done.")),
    "workshop_time_zone": Refused(
        "time_zone", Text("That is no time zone that is known here. Choose one from the list.")
    ),
    "workshop_air_pressure": Refused("air_pressure_hpa", Text("Air at the surface presses with 500 to 1100 hPa.")),
    "workshop_height": Refused("height_m", Text("Workshops stand between 500 m below and 5500 m above the sea.")),
    "workshop_scale_hosts": Refused("scale_hosts", Text("The list of hosts has at most 400 characters.")),
    "workshop_room": Refused("room_temp_c", Text("A room to pour in has 0 to 50 °C.")),
    "workshop_units": Refused("units", Text("Units are metric or US.")),
    "resin_name_taken": Refused(
        "name",
        Text(
            "Another casting material on the Shelf has this name. Two tins with one name get mixed up: choose another."
        ),
    ),
    "resin_name_length": Refused("name", Text("A name has 1 to 120 characters.")),
    "resin_kind": Refused("kind", Text("That is not one of the choices. Choose again.")),
    "resin_ratio_has_two_parts": Refused("weight_a", Text("A ratio has two numbers: one for A and one for B.")),
    "resin_figures": Refused("", Text("One of these figures lies outside what is possible. Check them on its tin.")),
    "resin_price": Refused("kit_price", Text("A price is 0 or more.")),
    "addition_name_taken": Refused(
        "name",
        Text(
            "Another filler or colour on the Shelf has this name. Two tubs with one name get mixed up: choose another."
        ),
    ),
    "addition_name_length": Refused("name", Text("A name has 1 to 120 characters.")),
    "addition_kind": Refused("kind", Text("That is not one of the choices. Choose again.")),
    "addition_densities": Refused(
        "bulk_sg", Text("A powder with air between its grains can't be denser than the grains themselves.")
    ),
    "addition_figures": Refused(
        "", Text("One of these figures lies outside what is possible. Check them on its label.")
    ),
    "addition_price": Refused("pack_price", Text("A price is 0 or more.")),
    "workshop_currency": Refused("currency", Text("A currency is written in 1 to 8 characters, such as EUR.")),
}
# the same constraint fails when a used thing is deleted and when a job names one that is gone
USED: dict[str, tuple[str, str, str]] = {
    "rubber_in_use": ("rubbers", "rubber_id", "rubber"),
    "blend_in_use": ("rubbers", "blend_id", "rubber"),
    "thinner_in_use": ("additives", "thinner_id", "thinner"),
    "thickener_in_use": ("additives", "thickener_id", "thickener"),
    "pigment_in_use": ("additives", "pigment_id", "pigment"),
    "resin_in_use": ("resins", "resin_id", Text("casting material")),
    "foam_in_use": ("resins", "foam_id", "foam"),
    "filler_in_use": ("additions", "filler_id", "filler"),
    "cast_colour_in_use": ("additions", "cast_colour_id", "colour"),
    "cup_in_use": ("cups", "cup_id", "cup"),
    "container_in_use": ("containers", "container_id", "container"),
}


# why a thing can't be deleted: its lots, coupons and pours
ON_RECORD = {
    "rubber_has_lots",
    "additive_has_lots",
    "resin_has_lots",
    "addition_has_lots",
    "rubber_has_coupons",
    "additive_has_coupons",
    "rubber_was_poured",
    "lot_was_poured",
    "rubber_has_tests",
}
# broken by nobody but a mistake of ours: they are told in general words
INTERNAL = frozenset(
    {
        *("parcel_name", "parcel_size"),
        *("practice_level", "practice_line_number", "practice_reviewed"),
        *("backup_bytes", "backup_file", "backup_rows", "backup_time"),
        *("account_password", "change_how", "code_kind", "device_kind", "session_program"),
        *(
            "board_row_figures",
            "earlier_shape",
            "undone_shape",
            "fault_pair_place",
            "input_key_kind",
            "lot_of_one_thing",
            "mesh_bytes",
        ),
        *("mesh_figures", "mesh_hash", "mesh_work_state", "mesh_work_tries", "mesh_work_what", "one_workshop"),
        *("factor_pours", "room_temp", "thermometer_heard"),
        *(
            "cavity_number",
            "cavity_why",
            "lot_move_names_its_shot",
            "piece_cavity",
            "piece_grade",
            "piece_way",
            "piece_weight",
            "shot_air",
            "shot_attitude",
            "shot_figures",
            "shot_kind",
            "shot_note",
            "shot_part_figures",
            "shot_part_kind",
            "shot_part_number",
            "shot_part_resin",
            "shot_photo_size",
            "shot_reason",
            "shot_release",
            "shot_resin",
            "shot_token",
            "shot_who",
            "trial_about",
            "trial_first",
            "trial_second",
            "trial_what",
        ),
        *("care_kind", "cavity_cause", "mould_amounts", "mould_care", "mould_cause", "mould_costs", "mould_detail"),
        *("mould_expected", "mould_family", "mould_finish", "mould_not_of_itself", "mould_parts", "mould_place"),
        *("mould_retired_for_a_cause", "mould_shots_before", "mould_why", "order_cycle", "order_due", "order_flawed"),
        *(
            "order_hours",
            "order_moulds",
            "order_name",
            "order_pieces",
            "sign_cavity",
            "sign_kind",
            "sign_note",
            "sign_photo",
        ),
        *(
            "away_in_order",
            "days_off_in_order",
            "equipment_kind",
            "equipment_name",
            "equipment_number",
            "equipment_price",
        ),
        *("one_row", "one_search", "other_work_minutes", "other_work_name", "person_hours", "person_name"),
        *("placed_step_key", "schedule_plan_kind", "schedule_search_state", "shop_hour_cost", "shop_hours_text"),
        *("safety_sheet_of_one_thing", "sheet_revision", "station_name", "station_shape", "workshop_demo"),
    }
)
