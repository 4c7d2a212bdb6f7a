// The frame of a written program, between whose parts the drivers' pieces stand. $names$ are filled in.
#pragma once

namespace cognitum::program {

extern const char* const skeleton_head;           ///< comments, includes, tasks
extern const char* const skeleton_values;         ///< of boards that say values
extern const char* const skeleton_restart;        ///< why it began: of the 8-bit boards
extern const char* const skeleton_reference;      ///< of boards whose converter is used
extern const char* const skeleton_each_reference; ///< where they measure against several
extern const char* const skeleton_loads;          ///< of boards that switch something
extern const char* const skeleton_commands;       ///< what it is told, and its answers
extern const char* const skeleton_rest; ///< of 8-bit boards on which nothing must be looked at again and again
extern const char* const skeleton_setup;
extern const char* const skeleton_loop;

} // namespace cognitum::program
