// A stream for adapters whose library reads from std::istream or a FILE: part of the kit in adapter.hpp.
#pragma once

#include <streambuf>
#include <string_view>

namespace nachklang::adapter {

/// Gives a text one byte at a time and stays open behind it: once it was asked for more than there is, what a
/// library hands over comes late.
class OpenStream final : public std::streambuf {
  public:
    explicit OpenStream(std::string_view text) : left_(text) {}
    [[nodiscard]] bool asked_for_more() const { return asked_; }
    /// The next byte, or a negative number.
    int next() {
        const int_type byte = sbumpc();
        return traits_type::eq_int_type(byte, traits_type::eof()) ? -1 : byte;
    }

  protected:
    int_type underflow() override {
        asked_ = asked_ || left_.empty();
        if (left_.empty()) return traits_type::eof();
        byte_ = left_.front();
        left_.remove_prefix(1);
        setg(&byte_, &byte_, &byte_ + 1);
        return traits_type::to_int_type(byte_);
    }

  private:
    std::string_view left_;
    char byte_ = 0;
    bool asked_ = false;
};

}  // namespace nachklang::adapter
