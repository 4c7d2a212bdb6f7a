// Nothing but a place for a group's precompiled headers to belong to.
