#pragma once
#include <set>
#include <string_view>

/// Faults that load or turn the front leg, so that its knee may go wrong by itself.
inline const std::set<std::string_view> kKneeCauses{"weight-over",     "double-weighted", "foot-lead-turned",
                                                    "hips-not-square", "heel-peels",      "hips-left-behind",
                                                    "turn-short",      "falls-into-step", "lean-back"};
