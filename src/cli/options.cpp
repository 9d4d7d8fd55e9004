// SPDX-License-Identifier: GPL-3.0-or-later
#include "options.h"

#include <fmt/format.h>

#include <CLI/CLI.hpp>

#include "base/number.h"
#include "base/process.h"

namespace askcount::cli {

namespace {

/// A number as people write it becomes one as the parser reads it; what is none stays, and is refused there.
Option numeric(CLI::Option* option) {
  option->transform(CLI::Validator(
      [](std::string& typed) {
        std::string_view rest(typed);
        const bool below = rest.starts_with('-');
        if (below || rest.starts_with('+')) rest.remove_prefix(1);
        const auto value = take_number(rest);
        if (value && rest.empty()) typed = fmt::format("{}{}", below ? "-" : "", *value);
        return std::string();
      },
      ""));
  return Option(*option);
}

}  // namespace

Option& Option::required() {
  option_->required();
  return *this;
}

Option& Option::counted(int most) {
  option_->expected(1, most);
  return *this;
}

Option& Option::between(int least, int most) {
  option_->check(CLI::Range(least, most));
  return *this;
}

Option& Option::between(long long least, long long most) {
  option_->check(CLI::Range(least, most));
  return *this;
}

Option& Option::between(double least, double most) {
  option_->check(CLI::Range(least, most));
  return *this;
}

Option& Option::positive() {
  option_->check(CLI::PositiveNumber);
  return *this;
}

Option& Option::one_of(const std::vector<std::string>& words) {
  option_->transform(CLI::IsMember(words, CLI::ignore_case));
  return *this;
}

Option& Option::split(char between, int values) {
  option_->delimiter(between)->expected(values);
  return *this;
}

Option& Option::called(const std::string& name) {
  option_->type_name(name);
  return *this;
}

Option Verb::add_option(const std::string& name, std::string& value, const std::string& help) const {
  return Option(*app_->add_option(name, value, help));
}

Option Verb::add_option(const std::string& name, double& value, const std::string& help) const {
  return numeric(app_->add_option(name, value, help));
}

Option Verb::add_option(const std::string& name, int& value, const std::string& help) const {
  return numeric(app_->add_option(name, value, help));
}

Option Verb::add_option(const std::string& name, long long& value, const std::string& help) const {
  return numeric(app_->add_option(name, value, help));
}

Option Verb::add_option(const std::string& name, std::optional<std::string>& value,
                        const std::string& help) const {
  return Option(*app_->add_option(name, value, help));
}

Option Verb::add_option(const std::string& name, std::optional<double>& value,
                        const std::string& help) const {
  return numeric(app_->add_option(name, value, help));
}

Option Verb::add_option(const std::string& name, std::optional<int>& value, const std::string& help) const {
  return numeric(app_->add_option(name, value, help));
}

Option Verb::add_option(const std::string& name, std::vector<std::string>& value,
                        const std::string& help) const {
  return Option(*app_->add_option(name, value, help));
}

Option Verb::add_option(const std::string& name, std::vector<double>& value, const std::string& help) const {
  return numeric(app_->add_option(name, value, help));
}

Option Verb::add_option(const std::string& name, std::vector<int>& value, const std::string& help) const {
  return numeric(app_->add_option(name, value, help));
}

void Verb::add_flag(const std::string& name, bool& value, const std::string& help) const {
  app_->add_flag(name, value, help);
}

void Verb::add_flag(const std::string& name, std::optional<bool>& value, const std::string& help) const {
  app_->add_flag_function(
      name, [&value](std::int64_t times) { value = times > 0; }, help);
}

void Verb::add_flag(const std::string& name, std::function<void()> hear, const std::string& help) const {
  app_->add_flag_callback(name, std::move(hear), help);
}

Option Verb::add_number(const std::string& name, std::function<void(double)> hear,
                        const std::string& help) const {
  return numeric(app_->add_option_function<double>(
      name, [hear](const double& value) { hear(value); }, help));
}

Option Verb::add_count(const std::string& name, std::function<void(long long)> hear,
                       const std::string& help) const {
  return numeric(app_->add_option_function<long long>(
      name, [hear](const long long& value) { hear(value); }, help));
}

Option Verb::add_heard(const std::string& name, std::function<void(const std::vector<std::string>&)> hear,
                       const std::string& help) const {
  CLI::Option* option = app_->add_option_function<std::vector<std::string>>(name, std::move(hear), help);
  return Option(*option->expected(1));
}

Verb Verb::add_verb(const std::string& name, const std::string& what) const {
  return Verb(*app_->add_subcommand(name, what));
}

void Verb::unlisted() const {
  app_->group("");
}

void Verb::callback(std::function<void()> chosen) const {
  app_->callback(std::move(chosen));
}

Command::Command(const std::string& name, const std::string& what, const std::string& version)
    : name_(name), app_(std::make_unique<CLI::App>(what, name)) {
  app_->require_subcommand(1);
  app_->set_help_all_flag("--help-all", "Print the help of every verb and exit");
  app_->set_version_flag("--version", name + " " + version);
}

Command::~Command() = default;

Verb Command::add_verb(const std::string& name, const std::string& what) {
  return Verb(*app_->add_subcommand(name, what));
}

std::optional<int> Command::parse(int argc, char** argv) {
  try {
    app_->parse(argc, argv);
    return std::nullopt;
  } catch (const CLI::ParseError& e) {
    if (e.get_exit_code() == 0) return app_->exit(e);
    complain(fmt::format("{}: {}. See {} --help.\n", name_, e.what(), name_));
    return 2;
  }
}

}  // namespace askcount::cli
