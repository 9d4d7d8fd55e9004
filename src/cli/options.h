// SPDX-License-Identifier: GPL-3.0-or-later
// The options of a verb: a thin front of CLI11, so that its templates are compiled once, in options.cpp.
#pragma once

#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace CLI {
class App;
class Option;
}  // namespace CLI

namespace askcount::cli {

/// What may be said of an option once it is there. Refusals name the option and what it takes.
class Option {
 public:
  explicit Option(CLI::Option& option) : option_(&option) {}
  Option& required();
  /// From the first to the last, both included.
  Option& between(int least, int most);
  Option& between(long long least, long long most);
  Option& between(double least, double most);
  Option& positive();
  Option& one_of(const std::vector<std::string>& words);
  /// Several values in one, "36x24": this many, with this character between them.
  Option& split(char between, int values);
  /// At most this many values.
  Option& counted(int most);
  /// What --help calls its value.
  Option& called(const std::string& name);

 private:
  CLI::Option* option_;
};

/// Words, and what each stands for.
template <class T>
using Words = std::vector<std::pair<std::string, T>>;

/// A verb of the command. What an option sets must live until the verb has run. Numbers are read as
/// everywhere (base/number.h): "1,250" is one of them.
class Verb {
 public:
  explicit Verb(CLI::App& app) : app_(&app) {}

  /// Goes on being understood, and is in no help.
  void unlisted() const;

  Option add_option(const std::string& name, std::string& value, const std::string& help) const;
  Option add_option(const std::string& name, double& value, const std::string& help) const;
  Option add_option(const std::string& name, int& value, const std::string& help) const;
  Option add_option(const std::string& name, long long& value, const std::string& help) const;
  Option add_option(const std::string& name, std::optional<std::string>& value,
                    const std::string& help) const;
  Option add_option(const std::string& name, std::optional<double>& value, const std::string& help) const;
  Option add_option(const std::string& name, std::optional<int>& value, const std::string& help) const;
  Option add_option(const std::string& name, std::vector<std::string>& value, const std::string& help) const;
  Option add_option(const std::string& name, std::vector<double>& value, const std::string& help) const;
  Option add_option(const std::string& name, std::vector<int>& value, const std::string& help) const;
  void add_flag(const std::string& name, bool& value, const std::string& help) const;
  /// One that can be said either way: "--lamp,!--no-lamp".
  void add_flag(const std::string& name, std::optional<bool>& value, const std::string& help) const;
  void add_flag(const std::string& name, std::function<void()> hear, const std::string& help) const;
  /// Gives the values as they were typed, once.
  Option add_heard(const std::string& name, std::function<void(const std::vector<std::string>&)> hear,
                   const std::string& help) const;

  /// The same of one number.
  Option add_number(const std::string& name, std::function<void(double)> hear, const std::string& help) const;
  Option add_count(const std::string& name, std::function<void(long long)> hear,
                   const std::string& help) const;

  /// One of a few words, in capitals or not.
  template <class T>
  Option add_choice(const std::string& name, T& value, const Words<T>& words, const std::string& help) const {
    return choice<T>(name, words, help, [&value](const std::vector<T>& said) { value = said.front(); });
  }
  /// Gives what was chosen.
  template <class T, class Hear>
  Option add_choice(const std::string& name, const Words<T>& words, const std::string& help,
                    Hear hear) const {
    return choice<T>(name, words, help, [hear](const std::vector<T>& said) { hear(said.front()); });
  }
  /// Several of them.
  template <class T>
  Option add_choices(const std::string& name, std::vector<T>& values, const Words<T>& words,
                     const std::string& help) const {
    return choice<T>(name, words, help, [&values](const std::vector<T>& said) { values = said; });
  }

  /// A verb below this one: "book add".
  Verb add_verb(const std::string& name, const std::string& what) const;

  /// Called when this verb was typed, after those below it.
  void callback(std::function<void()> chosen) const;

 private:
  template <class T>
  Option choice(const std::string& name, const Words<T>& words, const std::string& help,
                std::function<void(const std::vector<T>&)> take) const {
    std::vector<std::string> known;
    for (const auto& [word, value] : words) known.push_back(word);
    const auto hear = [words, take](const std::vector<std::string>& said) {
      std::vector<T> values;
      for (const std::string& one : said)
        for (const auto& [word, value] : words)
          if (word == one) values.push_back(value);
      take(values);
    };
    Option option = add_heard(name, hear, help);
    return option.one_of(known);
  }

  CLI::App* app_;
};

/// The command itself: its verbs, and what was typed.
class Command {
 public:
  Command(const std::string& name, const std::string& what, const std::string& version);
  ~Command();
  Command(const Command&) = delete;

  Verb add_verb(const std::string& name, const std::string& what);
  /// Fills the options of the verb that was typed and calls what that verb chose. Where --help or --version
  /// was asked for, or what was typed is refused, it says so and returns what the program is to exit with.
  std::optional<int> parse(int argc, char** argv);

 private:
  std::string name_;
  std::unique_ptr<CLI::App> app_;
};

}  // namespace askcount::cli
