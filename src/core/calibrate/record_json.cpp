#include "core/calibrate/stored_calibration.h"

namespace cognitum {

Json draft_json(const CalibrationDraft& draft) {
    return write_described(draft);
}

Result<CalibrationDraft> read_draft(const JsonReader& json) {
    return read_described<CalibrationDraft>(json);
}

Json record_json(const CalibrationRecord& record) {
    return write_described(record);
}

Result<CalibrationRecord> read_record(const JsonReader& json) {
    COGNITUM_TRY(record, read_described<CalibrationRecord>(json));
    record.correction.time = record.time;
    record.correction.verdict = record.verdict_left;
    return record;
}

} // namespace cognitum
