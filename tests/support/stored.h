// What must hold of every stored struct, by its description: each member is changed in turn, written and read
// again.
#pragma once

#include "core/calibrate/stored_calibration.h"
#include "support/support.h"

#include <set>

namespace cognitum::test {

struct Key {
    std::string name;
    bool required = false;
};

/// Lists the keys of a description.
struct Lister {
    std::vector<Key> keys;
    template <typename M, typename Form = PlainForm>
    Lister& must(const char* key, M, const Form& = {}) {
        keys.push_back({key, true});
        return *this;
    }
    template <typename M, typename Form = PlainForm>
    Lister& may(const char* key, M, const Form& = {}) {
        keys.push_back({key, false});
        return *this;
    }
    template <typename M, typename Form = PlainForm>
    Lister& always(const char* key, M member, const Form& form = {}) {
        return may(key, member, form);
    }
    template <typename Read>
    Lister& old(const char*, Read) {
        return *this;
    }
    template <typename Good, typename What>
    Lister& rule(const char*, Good, const What&) {
        return *this;
    }
};

template <typename T>
std::vector<Key> keys_of() {
    Lister lister;
    Description<T>::fields(lister);
    return lister.keys;
}

template <typename V>
void change(V& value);

/// Changes one member of a struct, by its place in the description.
template <typename T>
struct Changer {
    T& value;
    int wanted = 0, at = 0;
    template <typename V, typename Form = PlainForm>
    Changer& must(const char*, V T::*member, const Form& = {}) {
        if (at++ == wanted) change(value.*member);
        return *this;
    }
    template <typename V, typename Form = PlainForm>
    Changer& may(const char* key, V T::*member, const Form& form = {}) {
        return must(key, member, form);
    }
    template <typename V, typename Form = PlainForm>
    Changer& always(const char* key, V T::*member, const Form& form = {}) {
        return must(key, member, form);
    }
    template <typename Read>
    Changer& old(const char*, Read) {
        return *this;
    }
    template <typename Good, typename What>
    Changer& rule(const char*, Good, const What&) {
        return *this;
    }
};

template <typename T>
void change_member(T& value, int which) {
    Changer<T> changer{value, which};
    Description<T>::fields(changer);
}

/// Something that differs, and can be read again where its place allows it.
template <typename V>
void change(V& value) {
    if constexpr (std::is_same_v<V, bool>) {
        value = !value;
    } else if constexpr (std::is_same_v<V, std::string>) {
        value += value.empty() ? "„x\" \\ é" : "x";
    } else if constexpr (std::is_same_v<V, LinkKind>) {
        value = LinkKind::mqtt;
    } else if constexpr (std::is_enum_v<V>) {
        value = value == V{} ? static_cast<V>(1) : V{};
    } else if constexpr (std::is_integral_v<V>) {
        value = value == 0 ? V{1} : V(value + 1);
    } else if constexpr (std::is_floating_point_v<V>) {
        value = value * 0.3 + 0.1 + 1e-13;
    } else if constexpr (std::is_same_v<V, Chain>) {
        Scale scale;
        scale.factor.value = 2.5;
        scale.input_unit = scale.unit = "V";
        value.stages.push_back(scale);
    } else if constexpr (std::is_same_v<V, ColoursForm::Colours>) {
        value.emplace_back("out", "green");
    } else if constexpr (std::is_same_v<V, std::optional<TimedValue>>) {
        value = TimedValue{5'000'000, 0.1};
    } else if constexpr (std::is_same_v<V, std::vector<CurveKnot>>) {
        value = {{0, 0.1, 0.01}, {1.5, 2.25, 0.02}};
    } else if constexpr (is_list<V>) {
        typename V::value_type item{};
        if constexpr (Described<typename V::value_type>)
            change_member(item, 0);
        else
            change(item);
        value.push_back(item);
    } else if constexpr (requires { value.has_value(); }) {
        value.emplace();
        if constexpr (std::is_same_v<typename V::value_type, Bands>) *value = {0.1, 0.7, 0.05};
    } else {
        change_member(value, 0);
    }
}

template <typename T>
Result<T> read_text(const Json& json) {
    auto document = JsonText::parse("stored", json.dump());
    if (!document) return tl::make_unexpected(document.error());
    return read_described<T>(JsonReader(*document));
}

/// Everything that holds of each stored struct; `sound`: one that may be stored.
template <typename T>
void holds_for(const T& sound, const std::set<std::string>& refused_by_rule = {}) {
    const Json written = write_described(sound);
    VALUE_OF(again, read_text<T>(written));
    QCOMPARE(write_described(again).dump(), written.dump());
    const std::vector<Key> keys = keys_of<T>();
    for (int i = 0; i < static_cast<int>(keys.size()); ++i) {
        const std::string& key = keys[static_cast<std::size_t>(i)].name;
        T changed = sound;
        change_member(changed, i);
        const Json other = write_described(changed);
        QVERIFY2(other.dump() != written.dump(), ("a change is not written: " + key).c_str());
        const auto back = read_text<T>(other);
        QVERIFY2(back.has_value() != refused_by_rule.contains(key),
                 (key + ": " + (back ? "was read" : back.error().text())).c_str());
        if (back) QCOMPARE(write_described(*back).dump(), other.dump());
        Json none = other;
        none[key] = nullptr;
        QVERIFY2(!read_text<T>(none), ("null is read as " + key).c_str());
        none.erase(key);
        QVERIFY2(!keys[static_cast<std::size_t>(i)].required || !read_text<T>(none), (key + " is missed").c_str());
    }
    Json more = written;
    more["colour_of_the_moon"] = 1;
    const auto refused = read_text<T>(more);
    QVERIFY(!refused && refused.error().what.find("colour_of_the_moon") != std::string::npos);
}

} // namespace cognitum::test
